import type { Order } from '#model/order';
import type { Sheets } from '#model/sheet';
import type { OrderLamps } from '../lighting/check';
import { heightBand } from '../lighting/placing';
import { step, type PlannedStep } from './planned';

const side = (y: number) =>
  Math.abs(y) < 1 ? 'on the centre line' : `${Math.round(Math.abs(y))} mm ${y > 0 ? 'left' : 'right'} of the centre line`;

/**
 * Marking out every lamp that this order puts somewhere of its own: where, with which holes, and its height read on the
 * unit, judged by the band that the packs leave it.
 */
export function lampSteps(order: Order, sheets: Sheets, check: OrderLamps): PlannedStep[] {
  const packs = check.packs.map((p) => p.pack);
  return check.lamps.flatMap((l) => {
    const own = l.from === 'added' || (l.moved && l.from === 'kit');
    if (!own || !l.at) return [];
    const [of, id] = (l.from === 'added' ? order.lamps.added.find((a) => `added/${a.id}` === l.id)?.like : l.id)?.split('/') ?? [];
    const kit = sheets.kits.find((k) => k.id === of);
    const mount = kit?.devices.find((d) => d.id === id)?.mount;
    const band = heightBand(packs, l, check.given);
    const hole = !mount
      ? ''
      : mount.cut.kind === 'round'
        ? ` Hole ${mount.cut.mm} mm.`
        : mount.cut.kind === 'rect'
          ? ` Cut-out ${mount.cut.w} by ${mount.cut.h} mm, cut inside the line.`
          : ` ${mount.bolts.length} bolt ${mount.bolts.length === 1 ? 'hole' : 'holes'}.`;
    const place = sheets.model.places.find((p) => p.x === l.at!.x && p.y === l.at!.y && p.z === l.at!.z);
    return [
      step({
        id: `lamp/${l.id}`,
        stage: 'mount',
        kit: kit?.id ?? null,
        title: `Mark out ${l.name}`,
        text: `Its centre ${side(l.at.y)}, ${Math.round(l.at.z)} mm up from the ground.${hole} Print its hole sheet at 1:1 and measure the ruler first. Look at what is behind before drilling.`,
        place: place?.id ?? null,
        tool: 'tape, level, pencil',
        cautions: ['Eyes covered; look behind the panel before drilling'],
        minutes: 4,
        readings: band
          ? [
              {
                id: 'height',
                label: 'Centre above the ground',
                expected: { low: band.min, high: band.max, unit: 'mm', why: band.source },
              },
            ]
          : [],
      }),
    ];
  });
}
