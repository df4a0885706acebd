import type { Kit } from '#model/kit';
import type { UnitModel } from '#model/unit-model';
import type { Sheets } from '#model/sheet';
import { yes, type PlannedStep } from './planned';

/** Cautions of the work, each with where it is said. Common practice, no source, but where named; the maker's manual and the local code come first. */
export const CAUTION = {
  blower: 'Gasoline boat: run the blower and sniff bilge and tank space before the battery is touched',
  ignition: 'Engine or tank space of a gasoline boat: only ignition-protected parts (33 CFR 183.410)',
  stands: 'If a wheel leaves the ground: on stands, never on the jack alone',
  pretensioner: 'Airbags or belt pretensioners: battery off, wait as the maker says, never probe their yellow wires',
  behind: 'Before the drill or the saw: look for fuel line, tank, brake line and harness behind',
  eyes: 'Eyes and ears covered',
  hearing: 'Loud at this distance: ears covered, nobody in front of it',
  lithium: 'Lithium battery: takes no charge under 0 °C; warm it first, never force it',
  ammeter: 'The meter’s own fuse is in the line: nothing is switched on, no key turned, while it is there',
} as const;

/** What cuts or drills, in the words of steps, kits and tools. */
const CUTS = /\b(drill(ed|ing)?|hole saw|cut-out|cut (inside|the)|saw|pilots?|template|hole \d)\b/i;
const wordsOf = (s: PlannedStep): string => `${s.title} ${s.text} ${s.tool ?? ''}`;
/** Whether a step cuts or drills into the unit, by its words. */
export const cutsInto = (s: PlannedStep): boolean => !/^(wire|cut)\//.test(s.id) && CUTS.test(wordsOf(s));
const LOUD: readonly string[] = ['horn', 'sound-signal'];

const gasolineBoat = (m: UnitModel) => m.kind === 'boat' && m.electrical.source.kind !== 'none';
const wheeled = (m: UnitModel) => m.kind !== 'boat' && m.kind !== 'snow-machine';
const lithium = ({ model }: Sheets) => model.electrical.battery.chemistry === 'lfp' || model.electrical.house?.battery.chemistry === 'lfp';

/** Parts of the work at which the battery itself is handled. */
const AT_BATTERY = /^(safe\/(rest|negative|isolate|isolation)|power\/on|change\/second-battery)/;

function sounds(step: PlannedStep, kits: readonly Kit[]): boolean {
  const kit = kits.find((k) => k.id === step.kit);
  const circuit = kit?.circuits.find((c) => `${kit.id}/${c.id}` === step.circuit);
  const seen = [...step.readings.flatMap((r) => r.sees?.lit ?? []), ...(circuit?.devices ?? [])];
  return !!kit?.devices.some((d) => seen.includes(d.id) && (LOUD.includes(d.equipment?.function ?? '') || d.audio !== undefined));
}

/** What is looked at before anything is cut or drilled. Common practice, no source. */
const BEHIND = yes('behind', 'Looked behind it: no line, tank or harness where it is cut', 'before the drill or the saw');
const TEMPLATE = yes('template', 'The template lies true, and is not the mirrored one', 'before the drill or the saw');

/** A step with the cautions and the looks before it that its unit, its place and its work call for, beside those that it came with. */
export function withCautions(step: PlannedStep, sheets: Sheets): PlannedStep {
  const { model, kits } = sheets;
  const out: string[] = [];
  const hands = step.stage === 'mount' || step.stage === 'wire';
  if (gasolineBoat(model)) {
    if (AT_BATTERY.test(step.id)) out.push(CAUTION.blower);
    const spaces = [step.place, ...step.reach].map((p) => model.places.find((x) => x.id === p)?.space);
    if (hands && spaces.some((s) => s !== undefined)) out.push(CAUTION.ignition);
  }
  if (wheeled(model) && step.id === 'safe/off') out.push(CAUTION.stands);
  if (/^safe\/(negative|isolate)$/.test(step.id) && model.equipment.some((e) => e.function === 'belt')) out.push(CAUTION.pretensioner);
  const cuts = hands && cutsInto(step);
  if (cuts) out.push(CAUTION.behind, CAUTION.eyes);
  if (step.proof && sounds(step, kits)) out.push(CAUTION.hearing);
  if (lithium(sheets) && /^(power\/on|prove\/charging|change\/second-battery)/.test(step.id)) out.push(CAUTION.lithium);
  if (step.id === 'prove/parked') out.push(CAUTION.ammeter);
  const said = step.cautions.filter((c) => !out.includes(c) && !(out.includes(CAUTION.behind) && /look behind/i.test(c)));
  const looks = cuts ? [BEHIND, ...(/template|cut-out|cut inside/i.test(wordsOf(step)) ? [TEMPLATE] : [])] : [];
  return out.length ? { ...step, cautions: [...said, ...out], readings: [...step.readings, ...looks] } : step;
}
