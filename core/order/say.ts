import type { EventBody } from '#model/event';
import { WISHES } from '#model/wish';
import { awgName } from '../wire/resistance';

const UNIT: Record<string, string> = { V: 'V', A: 'A', ohm: 'Ω', mm: 'mm', N: 'N', perMin: 'per minute', yes: '' };
const FIELD: Record<string, string> = {
  build: 'build',
  year: 'year',
  identity: 'identity number',
  meterValue: 'meter',
  owner: 'owner',
  promisedAt: 'promise',
  wishes: 'wishes',
  restVolts: 'volts at rest',
  condition: 'condition',
};

function fieldValue(key: string, v: unknown): string {
  if (v === null || v === '') return 'taken off';
  if (key === 'wishes') return (v as (keyof typeof WISHES)[]).map((w) => WISHES[w]).join(', ') || 'none';
  if (key === 'promisedAt') return String(v).slice(0, 16).replace('T', ' ');
  return key === 'restVolts' ? `${v} V` : String(v);
}

const side = (y: number) =>
  Math.round(y) === 0 ? 'on the centre line' : `${Math.abs(Math.round(y))} mm ${y > 0 ? 'left' : 'right'} of the centre line`;
const place = (p: { y: number; z: number }) => `${side(p.y)}, ${Math.round(p.z)} mm up`;

/** What an event was, as a line of a log that a person reads and searches. */
export function say(e: EventBody): string {
  switch (e.type) {
    case 'order.opened':
      return `Taken in for ${e.opening.owner}, number ${e.opening.identity}`;
    case 'arrive.changed':
      return Object.entries(e.patch)
        .map(([k, v]) => `${FIELD[k]} ${fieldValue(k, v)}`)
        .join('; ');
    case 'fitted.added':
      return `Already fitted: ${e.item.name}, ${e.item.watts === null ? 'watts not known' : `${e.item.watts} W`}`;
    case 'fitted.removed':
      return `Not fitted after all: ${e.id}`;
    case 'kit.added':
      return `Kit chosen: ${e.name} (sheet revision ${e.kit.revision})`;
    case 'kit.removed':
      return `Kit taken off: ${e.kit}`;
    case 'box.counted':
      return `Box of ${e.kit}: ${e.count} × ${e.label}`;
    case 'wire.overridden':
      return `${e.circuit}: ${e.field === 'awg' ? `gauge ${awgName(e.value as number)}` : e.field === 'fuseA' ? `fuse ${e.value} A` : e.field === 'lengthM' ? `length ${e.value} m` : e.field === 'route' ? `led by ${String(e.value).replace('>', ' to ')}` : `${e.field} ${String(e.value).replaceAll('-', ' ')}`} by hand${e.reason ? `: ${e.reason}` : ''}`;
    case 'wire.override-cleared':
      return `${e.circuit}: ${e.field} back to what Kadro chose`;
    case 'fact.told':
      return `Told: ${e.label} ${e.value === true ? 'yes' : e.value === false ? 'no' : e.value}`;
    case 'day.described':
      return `Owner’s day: ${e.day.name}, ${e.day.phases.length} ${e.day.phases.length === 1 ? 'phase' : 'phases'}`;
    case 'day.dropped':
      return `Owner’s day taken off: ${e.id}`;
    case 'power.changed':
      return `Agreed so that it holds: ${e.label}`;
    case 'power.restored':
      return `No longer agreed: ${e.label}`;
    case 'packs.chosen':
      return e.packs === null ? 'Rule packs as Kadro proposes' : `Rule packs: ${e.label}`;
    case 'lamp.placed':
      return `${e.label}: ${place(e.at)}`;
    case 'lamp.freed':
      return `${e.label} back at its sheet’s place`;
    case 'lamp.added':
      return `Added: ${e.lamp.name}, ${place(e.lamp.at)}`;
    case 'lamp.dropped':
      return `Not added after all: ${e.label}`;
    case 'plan.chosen':
      return `Plan: ${e.choice.runs === null ? 'panels over wires as is quicker' : e.choice.runs === 'fish' ? 'wires fished through' : 'panels over wires off'}, harnesses ${e.choice.benchTest ? '' : 'not '}tried at the bench`;
    case 'plan.pinned':
      return `Plan: ${e.label}`;
    case 'plan.freed':
      return `Plan: ${e.label} where Kadro puts it`;
    case 'bench.assigned':
      return e.to ? `On the bench of ${e.to}` : 'On nobody’s bench';
    case 'step.started':
      return `Clock on ${e.step}`;
    case 'timer.stopped':
      return 'Clock stopped';
    case 'step.done':
      return `Done: ${e.title}`;
    case 'step.skipped':
      return `Skipped: ${e.title}, because ${e.reason}`;
    case 'step.reopened':
      return `Reopened: ${e.title}`;
    case 'reading.taken': {
      const { low, high, unit } = e.expected;
      const band =
        unit === 'yes'
          ? ''
          : low !== null && high !== null
            ? `, expected ${low} to ${high} ${UNIT[unit]}`
            : low !== null
              ? `, expected at least ${Math.round(low)} ${UNIT[unit]}`
              : '';
      return `${e.label}: ${unit === 'yes' ? (e.value === 1 ? 'yes' : 'no') : `${e.value} ${UNIT[unit]}`}${band}: ${e.verdict}`;
    }
    case 'fasteners.counted':
      return e.label;
    case 'fasteners.excused':
      return `${e.label}, closed all the same, because ${e.reason}`;
    case 'finding.added':
      return `Finding: ${e.text}`;
    case 'probe.taken':
      return `${e.label}: ${e.value === null ? 'open' : `${Number(e.value.toPrecision(4))} ${e.probe.look.kind === 'volts' ? 'V' : 'Ω'}`}${e.foretold === null ? '' : `, should be ${Number(e.foretold.toPrecision(4))}`}`;
    case 'fault.mended':
      return `Put right: ${e.says}`;
    case 'photo.taken':
      return `Picture${e.note ? `: ${e.note}` : ''}`;
    case 'step.given':
      return e.to ? `For ${e.to}: ${e.title}` : `For whoever comes: ${e.title}`;
    case 'finding.judged':
      return `Finding ${e.still ? 'confirmed' : 'outdated'}: ${e.text}`;
    case 'time.corrected':
      return `${e.label}, because ${e.reason}`;
    case 'proof.overridden':
      return `Passed without proof: ${e.title}, because ${e.reason}`;
    case 'handover.signed':
      return `Signed by ${e.name}`;
    case 'order.sealed':
      return 'Handed over and sealed';
    case 'addition.made':
      return `Addition: ${e.text}`;
    case 'calc.kept':
      return `Calculation ${e.name}: ${e.answer}`;
  }
}
