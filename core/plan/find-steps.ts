import type { Kit } from '#model/kit';
import type { FactoryWire, PowerPoint, UnitModel } from '#model/unit-model';
import { UNIT_CONTROLS } from '../harness/unit-controls';
import { isTraction } from '../wire-rules/high-volts';
import type { Wiring } from '../wiring/planned';
import { cutSides, cutsOf, soughtBy, type Sought } from '../wiring/factory-cuts';
import { deadExpected, liveExpected } from './expect';
import { step, yes, type PlannedStep } from './planned';

/** The step that reads a feed: before anything is joined to it, or, of what a kit makes, once it is there. */
export const feedStepOf = (point: string): string => `feed/${point}`;

/** Posts are where they are: nobody looks for them. */
const KNOWN: readonly PowerPoint['kind'][] = ['battery-post', 'pack-tap'];

/** Whether a point is of the unit and must be found, with its power on, before anything is joined to it. */
const mustBeFound = (model: UnitModel, p: PowerPoint): boolean =>
  model.powerPoints.some((x) => x.id === p.id) && !KNOWN.includes(p.kind) && p.kind !== 'reducer-output';

/** A feed read dead, live, dead where the key switches it; live where it is constant. What the unit has is read before its power is off. */
export function feedSteps(model: UnitModel, wiring: Wiring): PlannedStep[] {
  // what a kit hands on is proved where the kit itself is fed
  const given = new Set(wiring.circuits.flatMap((c) => c.kit.provides.map((p) => p.id)));
  const used = wiring.points.filter((p) => !given.has(p.id) && wiring.circuits.some((c) => c.feed?.id === p.id || c.trigger?.id === p.id));
  return used.map((p) => {
    const live = liveExpected(model, p);
    const found = mustBeFound(model, p);
    const keyed = p.switching === 'keyed';
    const held =
      found && keyed && model.kind === 'golf-cart' && isTraction(model)
        ? [yes('held', 'Switch at RUN, wheels chocked or raised on stands')]
        : [];
    return step({
      id: feedStepOf(p.id),
      stage: found ? 'find' : 'prove',
      proof: true,
      place: p.place,
      tool: 'meter',
      minutes: keyed ? 3 : 1,
      title: keyed ? `Volts at ${p.name}: key off, on, off` : `Volts at ${p.name}`,
      text: keyed
        ? `Meter from the feed to ground${found ? ', before anything is joined to it. A wire that flashes is a turn-signal wire: choose another' : ''}.`
        : p.kind === 'pack-tap'
          ? 'Meter across it, key off.'
          : `Meter from the feed to ${p.kind === 'battery-post' ? 'the negative post' : 'ground'}, key off.`,
      ...(held.length && { cautions: ['It may move when the key is turned: nobody in front or behind'] }),
      readings: keyed
        ? [
            ...held,
            { id: 'off-1', label: 'Key off', expected: deadExpected(wiring.harness, p) },
            { id: 'on', label: 'Key on', expected: live },
            { id: 'off-2', label: 'Key off again', expected: deadExpected(wiring.harness, p) },
          ]
        : [{ id: 'on', label: 'Key off', expected: live }],
    });
  });
}

const findStepOf = ({ wire, place }: Sought): string => `find/${wire.id}${place === wire.place ? '' : `/${place}`}`;
export const cutStepOf = (kit: Pick<Kit, 'id'>, cut: string): string => `cut/${kit.id}/${cut}`;

/** What must be on for a wire to be live, in words: `key run, brake pressed`; empty where it always is. */
function sayLive(wire: FactoryWire): string {
  return wire.live
    .flatMap((c) => {
      const [id, at] = c.split(':') as [string, string | undefined];
      const control = UNIT_CONTROLS.find((x) => x.id === id);
      const position = control?.positions.find((p) => p.id === at?.split('|').at(-1));
      return control && position ? [`${control.name.toLowerCase()} ${position.name}`] : [];
    })
    .sort((a, b) => Number(b.startsWith('key')) - Number(a.startsWith('key')))
    .join(', ');
}

/** Finding each wire of the unit that is cut or joined to, with lamp or meter, before its power is off. */
export function findSteps(kits: readonly Kit[], model: UnitModel): PlannedStep[] {
  const all = new Map(kits.flatMap((k) => soughtBy(k, kits, model)).map((s) => [findStepOf(s), s]));
  return [...all].map(([id, { wire, place }]) => {
    const on = sayLive(wire);
    const flashes = wire.live.includes('beat');
    const live = `${flashes ? 'flashes' : 'live'}${on ? ` with ${on}` : ''}`;
    return step({
      id,
      stage: 'find',
      proof: true,
      place,
      tool: 'lamp or meter',
      minutes: 2,
      title: `Find the ${wire.name}`,
      text: `${wire.colour} in the unit’s loom. Lamp or meter from it to ground; mark the one that answers with tape.`,
      readings: [yes('found', on ? `Dead; ${live}; dead again` : 'Live', 'before anything is joined to it or cut')],
    });
  });
}

/** Steps that must be done before anything of a kit is joined to the unit: its wires found, and cut where it cuts them. */
export const soughtBefore = (kit: Kit, kits: readonly Kit[], model: UnitModel): string[] => [
  ...soughtBy(kit, kits, model).map(findStepOf),
  ...cutsOf(kit, kits, model).map((c) => cutStepOf(kit, c.id)),
];

/** Cutting each wire of the unit that a kit cuts: both its sides are seen to. */
export function cutSteps(kit: Kit, kits: readonly Kit[], model: UnitModel): PlannedStep[] {
  const name = (place: string) => model.places.find((p) => p.id === place)?.name ?? place;
  return cutSides(kits, model)
    .filter((c) => c.kit.id === kit.id)
    .map((c) => {
      const capped = [...(c.unit === null ? ['unit’s side'] : []), ...(c.other === null ? ['far side'] : [])];
      const side = (what: string, to: string | null) => `The ${what}: ${to === null ? 'capped and tied back' : `to ${to}`}.`;
      return step({
        id: cutStepOf(kit, c.id),
        stage: 'wire',
        kit: kit.id,
        title: `Cut the ${c.wire.name} at ${name(c.place)}`,
        text: [
          `${c.wire.colour}, the one that was found and marked, a hand’s breadth before it ends.`,
          side('unit’s side', c.unit),
          side('far side', c.other),
        ].join('\n'),
        place: c.place,
        tool: 'cutter',
        minutes: c.minutes,
        after: [findStepOf({ wire: c.wire, place: c.place })],
        readings: [
          yes('right', 'It is the marked one, on this side of the unit'),
          ...(capped.length ? [yes('capped', `Capped and tied back: ${capped.join(', ')}`)] : []),
        ],
      });
    });
}
