import type { EventBody, OrderCommand } from '#model/event';
import { Joint, type Kit } from '#model/kit';
import { LIT_FUNCTIONS, type Point } from '#model/lamp';
import type { Order } from '#model/order';
import type { Role } from '#model/person';
import { changeKey, type PowerChange } from '#model/power-change';
import type { SheetRef, Sheets } from '#model/sheet';
import { MODES } from '../circuit/feed';
import { findRun } from '../circuit/route';
import { liveModel } from '../fault/predict';
import { sayState } from '../harness/scan';
import { unsafeOverride } from '../circuit/unsafe';
import { outside } from '../lighting/lamp';
import { may, whoMay } from '../people/permissions';
import { GAUGES } from '../wire/tables';
import { FUSE_SIZES } from '../wire/fuse';
import { judgeReading } from '../plan/judge';
import type { Assessment } from './assess';
import { fastenersHold, ledger, shortOf } from '../plan/fasteners';
import { behind, pinnedTasks, pinRefused } from '../plan/problem';
import { readingVerdict, stepState } from './assess';

/** A command that may not be carried out, with a message for the person. `role` refusals are a matter of who asks. */
export class Refused extends Error {
  override readonly name = 'Refused';
  constructor(
    message: string,
    readonly why: 'role' | 'state' | 'input' = 'state',
    readonly path?: string,
  ) {
    super(message);
  }
}

export interface Context {
  role: Role;
  sheets: Sheets;
  assessment: Assessment;
  /** the newest revision of a kit, if there is one */
  kit: (id: string) => { ref: SheetRef; kit: Kit } | null;
  people: readonly string[];
  /** who asks */
  by: string;
  /** whether a picture is there */
  hasPhoto: (id: string) => boolean;
  /** the hash of the hand-over sheet as it is sealed, SHA-256 in hex */
  seal: () => string;
}

/** Pictures that an order keeps. */
const MOST_PHOTOS = 200;

const minutesSeconds = (s: number) => `${Math.floor(s / 60)}:${String(Math.floor(s % 60)).padStart(2, '0')}`;

/** Days that an order may describe. */
const MOST_DAYS = 6;
/** Lamps that an order may add beyond its kits. */
const MOST_ADDED = 20;

/** Commands that a sealed order still takes. */
const AFTER_SEAL: OrderCommand['type'][] = ['addition.made'];

/**
 * Decides a command on an order: either the event to record, complete, or a refusal with its reason.
 * @throws Refused
 */
export function decide(command: OrderCommand, order: Order, c: Context): EventBody {
  if (!may(c.role, command.type)) throw new Refused(whoMay(command.type), 'role');
  if (order.status === 'sealed' && !AFTER_SEAL.includes(command.type))
    throw new Refused('This order is sealed: what was recorded stays as it is. Add a dated addition instead.');
  const planned = (id: string) => {
    const step = c.assessment.steps.find((s) => s.id === id);
    if (!step) throw new Refused(`There is no step “${id}” in this order as it is planned now.`, 'input', 'step');
    return step;
  };
  // what is given to another person is theirs
  const mine = (s: { id: string }) => (order.given[s.id] ?? c.by) === c.by;
  // the first that is left, not the next on the list: what comes before must be done before
  const nextAfter = (id: string) =>
    c.assessment.steps.find((s) => s.id !== id && mine(s) && stepState(order, s.id).status === 'todo')?.id ?? null;
  switch (command.type) {
    case 'arrive.changed': {
      const { build, year } = command.patch;
      if (build !== undefined && !c.sheets.model.builds.some((b) => b.id === build))
        throw new Refused(`${c.sheets.model.name} has no build “${build}”.`, 'input', 'build');
      if (year !== undefined && (year < c.sheets.model.years.from || year > c.sheets.model.years.to))
        throw new Refused(
          `${c.sheets.model.name} was made from ${c.sheets.model.years.from} to ${c.sheets.model.years.to}.`,
          'input',
          'year',
        );
      return command;
    }
    case 'fitted.removed':
      if (!order.fitted.some((f) => f.id === command.id))
        throw new Refused('That is not on the list of what is already fitted.', 'input', 'id');
      return command;
    case 'kit.added': {
      const found = c.kit(command.kit);
      if (!found) throw new Refused(`There is no kit “${command.kit}” in the sheets.`, 'input', 'kit');
      if (order.kits.some((k) => k.kit.id === command.kit)) throw new Refused(`${found.kit.name} is already chosen.`);
      return { type: 'kit.added', kit: found.ref, name: found.kit.name };
    }
    case 'kit.removed': {
      if (!order.kits.some((k) => k.kit.id === command.kit)) throw new Refused('That kit is not on this order.', 'input', 'kit');
      const begun = c.assessment.steps.find((s) => s.kit === command.kit && stepState(order, s.id).status === 'done');
      if (begun) throw new Refused(`“${begun.title}” is already done: reopen the steps of this kit before taking it off the order.`);
      return command;
    }
    case 'box.counted': {
      const kit = c.sheets.kits.find((k) => k.id === command.kit);
      const item = kit?.box[command.item];
      if (!item) throw new Refused('That is not in the box of a chosen kit.', 'input', 'item');
      return { ...command, label: item.item };
    }
    case 'wire.overridden':
      return decideOverride(command, c);
    case 'day.described':
      if (!order.days.some((d) => d.id === command.day.id) && order.days.length >= MOST_DAYS)
        throw new Refused(`An order keeps at most ${MOST_DAYS} days: take one off first.`);
      return command;
    case 'day.dropped':
      if (!order.days.some((d) => d.id === command.id)) throw new Refused('There is no such day on this order.', 'input', 'id');
      return command;
    case 'power.changed':
      return { ...command, change: decideChange(command.change, c.sheets) };
    case 'power.restored':
      if (!order.changes.some((x) => changeKey(x.change) === command.key))
        throw new Refused('That was not agreed on this order.', 'input', 'key');
      return command;
    case 'packs.chosen': {
      const lost = command.packs?.find((id) => !c.sheets.packs.some((p) => p.id === id));
      if (lost) throw new Refused(`There is no rule pack “${lost}” in the sheets.`, 'input', 'packs');
      return command;
    }
    case 'lamp.placed':
    case 'lamp.freed':
    case 'lamp.added':
    case 'lamp.dropped':
      return decideLamp(command, order, c);
    case 'plan.chosen':
      return command;
    case 'plan.pinned': {
      const { pin } = command;
      const tasks = c.assessment.work?.problem.tasks ?? [];
      const named = (id: string, path: string) => {
        const t = tasks.find((x) => x.id === id);
        if (!t) throw new Refused(`“${id}” is not a step that can be put elsewhere: panels and power follow the work.`, 'input', path);
        return t.step.title;
      };
      if (stepState(order, pin.step).status !== 'todo') throw new Refused('That step is settled: it stays where it was done.');
      const title = named(pin.step, 'pin.step');
      const [after, before] = [pin.after && named(pin.after, 'pin.after'), pin.before && named(pin.before, 'pin.before')];
      if (!after && !before) throw new Refused('Say what the step comes after, or before.', 'input', 'pin');
      // as the plan would be without where this step was put before
      const others = order.plan.pins.filter((p) => p.step !== pin.step);
      const refused = pinRefused(pinnedTasks(c.assessment.work!.free, others), pin);
      if (refused) throw new Refused(`${refused.why}.`, 'state', 'pin');
      const where = [after && `after “${after}”`, before && `before “${before}”`].filter(Boolean).join(', ');
      return { type: 'plan.pinned', pin, label: `“${title}” ${where}`.slice(0, 420) };
    }
    case 'plan.freed': {
      if (!order.plan.pins.some((p) => p.step === command.step)) throw new Refused('That step stands where Kadro put it.', 'input', 'step');
      return { ...command, label: c.assessment.steps.find((s) => s.id === command.step)?.title ?? command.step };
    }
    case 'time.corrected': {
      const step = planned(command.step);
      if (order.clocks.some((x) => x.step === step.id)) throw new Refused('The clock runs on this step: stop it first.');
      const was = stepState(order, step.id).seconds;
      return { ...command, label: `${step.title}: ${minutesSeconds(command.seconds)} instead of ${minutesSeconds(was)}` };
    }
    case 'fasteners.counted': {
      const step = planned(command.step);
      const list = step.panel?.fasteners ?? [];
      if (!list.length) throw new Refused(`“${step.title}” has no fasteners to count.`, 'input', 'step');
      if (command.counts.length !== list.length)
        throw new Refused(
          `${step.panel!.name} has ${list.length} ${list.length === 1 ? 'kind' : 'kinds'} of fastener: count each.`,
          'input',
          'counts',
        );
      const lines = ledger(order, step);
      const closing = step.stage === 'close';
      const over = closing ? lines.find((l, i) => command.counts[i]! > l.out) : undefined;
      if (over)
        throw new Refused(
          `${over.out} × ${over.kind} came out: more cannot go back. Put the count at taking off right first.`,
          'input',
          'counts',
        );
      const says = lines.map((l, i) => `${command.counts[i]}${closing ? ` of ${l.out}` : ''} × ${l.kind}`).join(', ');
      return { ...command, label: `${step.panel!.name}: ${says} ${closing ? 'back' : 'out'}`.slice(0, 200) };
    }
    case 'fasteners.excused': {
      const step = planned(command.step);
      const short = step.stage === 'close' ? shortOf(ledger(order, step)) : '';
      if (!short) throw new Refused('Nothing is counted short there.', 'input', 'step');
      return { ...command, label: `${step.panel!.name}: ${short} not back`.slice(0, 300) };
    }
    case 'bench.assigned':
      if (command.to !== null && !c.people.includes(command.to)) throw new Refused(`Nobody here is called “${command.to}”.`, 'input', 'to');
      return command;
    case 'step.started':
      planned(command.step);
      return command;
    case 'timer.stopped':
      if (!order.clocks.some((x) => x.by === c.by)) throw new Refused('No clock of yours is running.');
      return command;
    case 'step.given': {
      const step = planned(command.step);
      if (command.to !== null && !c.people.includes(command.to)) throw new Refused(`Nobody here is called “${command.to}”.`, 'input', 'to');
      if (stepState(order, step.id).status !== 'todo') throw new Refused(`“${step.title}” is settled already.`);
      return { ...command, title: step.title };
    }
    case 'photo.taken':
      if (command.step) planned(command.step);
      if (!c.hasPhoto(command.photo)) throw new Refused('That picture has not arrived: take it again.', 'input', 'photo');
      if (order.photos.length >= MOST_PHOTOS) throw new Refused(`An order keeps at most ${MOST_PHOTOS} pictures.`);
      return command;
    case 'finding.added':
      if (command.photo && !c.hasPhoto(command.photo)) throw new Refused('Its picture has not arrived: take it again.', 'input', 'photo');
      return command;
    case 'probe.taken': {
      planned(command.step);
      const { harness } = c.assessment.wiring;
      const { look, state } = command.probe;
      const point = (id: string) => {
        const n = harness.nodes.find((x) => x.id === id);
        if (!n) throw new Refused(`There is no point “${id}” in this wiring.`, 'input', 'probe');
        return n.label;
      };
      if (look.kind === 'volts' && command.value === null) throw new Refused('Volts are a figure.', 'input', 'value');
      const label = `${look.kind === 'volts' ? 'Volts' : 'Ohms'}, ${point(look.plus)} to ${point(look.minus)}, ${sayState(harness, state)}`;
      const foretold = liveModel(harness).value(command.probe);
      return { ...command, foretold: foretold === null || !Number.isFinite(foretold) ? null : foretold, label: label.slice(0, 400) };
    }
    case 'fault.mended':
      planned(command.step);
      return command;
    case 'reading.taken': {
      const step = planned(command.step);
      const r = step.readings.find((x) => x.id === command.reading);
      if (!r) throw new Refused(`“${step.title}” has no reading “${command.reading}”.`, 'input', 'reading');
      if (r.expected.unit === 'yes' && command.value !== 0 && command.value !== 1)
        throw new Refused('This is answered yes or no.', 'input', 'value');
      return { ...command, label: `${step.title}: ${r.label}`, expected: r.expected, verdict: judgeReading(command.value, r.expected) };
    }
    case 'step.done': {
      const step = planned(command.step);
      if (stepState(order, step.id).status === 'done') throw new Refused(`“${step.title}” is already done.`);
      const missing = step.readings.find((r) => !r.optional && readingVerdict(order, step, r.id) === null);
      if (missing) throw new Refused(`Read “${missing.label}” first.`);
      const failing = step.readings.find((r) => readingVerdict(order, step, r.id) === 'fails');
      if (failing) throw new Refused(`“${failing.label}” is out of its band: put it right and read again, or skip the step with a reason.`);
      const count = fastenersHold(order, step);
      if (count) throw new Refused(count);
      if (step.stage === 'close') {
        const tasks = c.assessment.work?.problem.tasks ?? [];
        const panel = step.panel?.id;
        // a panel stays off for what is proved behind it; what comes after closing waits for everything
        const holds = (id: string) => !panel || behind(c.sheets.model, tasks.find((t) => t.id === id)?.open ?? []).has(panel);
        const open = c.assessment.proofs.find((p) => (p.state === 'missing' || p.state === 'failing') && holds(p.step.id));
        if (open)
          throw new Refused(`Prove before closing: “${open.step.title}” is ${open.state === 'failing' ? 'failing' : 'not proved yet'}.`);
      }
      return { ...command, title: step.title, next: nextAfter(step.id) };
    }
    case 'step.skipped': {
      const step = planned(command.step);
      return { ...command, title: step.title, next: nextAfter(step.id) };
    }
    case 'step.reopened': {
      const step = planned(command.step);
      if (stepState(order, step.id).status === 'todo') throw new Refused(`“${step.title}” is not done yet.`);
      return { ...command, title: step.title };
    }
    case 'proof.overridden': {
      const proof = c.assessment.proofs.find((p) => p.step.id === command.proof);
      if (!proof) throw new Refused('That is not a proof of this order.', 'input', 'proof');
      if (proof.state === 'proved') throw new Refused(`“${proof.step.title}” is proved: there is nothing to pass.`);
      return { ...command, title: proof.step.title };
    }
    case 'order.sealed':
      if (c.assessment.blocks.length)
        throw new Refused(
          `Not yet: ${c.assessment.blocks[0]}${c.assessment.blocks.length > 1 ? `, and ${c.assessment.blocks.length - 1} more` : ''}.`,
        );
      return { type: 'order.sealed', sheetHash: c.seal() };
    case 'addition.made':
      if (order.status !== 'sealed') throw new Refused('Additions are for sealed orders; this one is still open, so add a finding.');
      return command;
    default:
      return command;
  }
}

/** An override must be possible, and an unsafe one needs a lead with a reason. */
function decideOverride(command: Extract<OrderCommand, { type: 'wire.overridden' }>, c: Context): EventBody {
  const circuit = c.assessment.wiring.circuits.find((x) => x.id === command.circuit);
  if (!circuit) throw new Refused('That circuit is not on this order.', 'input', 'circuit');
  const { field, value } = command;
  const bad = (message: string) => new Refused(message, 'input', 'value');
  const lead = c.role === 'lead' || c.role === 'owner';
  switch (field) {
    case 'awg':
      if (typeof value !== 'number' || !(GAUGES as readonly number[]).includes(value)) throw bad('Choose one of the stocked gauges.');
      break;
    case 'fuseA':
      if (typeof value !== 'number' || !FUSE_SIZES.includes(value)) throw bad(`There is no ${value} A fuse: ${FUSE_SIZES.join(', ')}.`);
      break;
    case 'lengthM':
      if (typeof value !== 'number' || value <= 0 || value > 60) throw bad('A length is above 0 and at most 60 m.');
      break;
    case 'mode':
      if (!MODES.some((m) => m === value)) throw bad('Direct, through a relay, or with a plug to pull.');
      break;
    case 'joint':
      if (!Joint.safeParse(value).success) throw bad('There is no such joint.');
      break;
    case 'route':
      if (typeof value !== 'string' || !findRun(c.sheets.model, value)) throw bad('That run is not on this unit.');
      break;
    case 'feed':
      if (!circuit.candidates.some((x) => x.point.id === value)) throw bad('That feed is not on this unit.');
      break;
  }
  const unsafe = unsafeOverride(circuit, field, value, c.sheets.model);
  if (unsafe && !lead) throw new Refused(`Unsafe: ${unsafe}. A lead may pass it, with a reason.`, 'role', 'value');
  if (unsafe && !command.reason) throw new Refused(`Unsafe: ${unsafe}. Give the reason why it is right here.`, 'input', 'reason');
  return command;
}

/** What is agreed must be possible on this unit with these kits. */
function decideChange(change: PowerChange, sheets: Sheets): PowerChange {
  const { electrical, name } = sheets.model;
  const bad = (message: string, path: string) => new Refused(message, 'input', `change.${path}`);
  if ('load' in change) {
    const [of, id] = change.load.split('/') as [string, string];
    const own = of === 'own' ? electrical.ownLoads.find((l) => l.id === id) : undefined;
    const device = sheets.kits.find((k) => k.id === of)?.devices.find((d) => d.id === id && d.load);
    if (!own && !device) throw bad(`“${change.load}” is not on this order.`, 'load');
    if (change.kind === 'led' && !(own ?? device!).led) throw bad('No LED is known for that lamp.', 'load');
    if (change.kind !== 'led' && !device) throw bad('That belongs to the unit itself and is not switched.', 'load');
  }
  switch (change.kind) {
    case 'idle': {
      if (electrical.source.kind === 'none') throw bad(`${name} has no engine.`, 'rpm');
      const most = electrical.idleMaxRpm ?? electrical.source.idleRpm;
      if (change.rpm < electrical.source.idleRpm || change.rpm > most)
        throw bad(`The idle may stand from ${electrical.source.idleRpm} to ${most} rpm on this unit.`, 'rpm');
      return change;
    }
    case 'source': {
      const upgrade = electrical.sourceUpgrades.find((u) => u.id === change.upgrade);
      if (!upgrade) throw bad(`No such source is known for ${name}.`, 'upgrade');
      return { ...change, name: upgrade.name, curve: upgrade.curve };
    }
    case 'reducer':
      if (!sheets.kits.some((k) => k.circuits.some((x) => x.makes?.id === change.makes)))
        throw bad('No kit here makes that supply.', 'makes');
      return change;
    default:
      return change;
  }
}

/** A lamp is put where it can be on the unit; one is added as the same as a kit's, or takes no current. */
function decideLamp(command: Extract<OrderCommand, { type: `lamp.${string}` }>, order: Order, c: Context): EventBody {
  const { lamps, unit } = c.assessment.lamps;
  const where = (at: Point) => {
    const out = outside(unit, at);
    if (out) throw new Refused(`That is ${out}: measure again.`, 'input', 'at');
  };
  switch (command.type) {
    case 'lamp.placed':
      if (!lamps.some((l) => l.id === command.lamp)) throw new Refused('That lamp is not on this order.', 'input', 'lamp');
      where(command.at);
      return command;
    case 'lamp.freed':
      if (!(command.lamp in order.lamps.placed)) throw new Refused('That lamp stands where its sheet says.', 'input', 'lamp');
      return command;
    case 'lamp.dropped':
      if (!order.lamps.added.some((l) => l.id === command.id)) throw new Refused('That was not added to this order.', 'input', 'id');
      return command;
    case 'lamp.added': {
      const { lamp } = command;
      where(lamp.at);
      if (order.lamps.added.length >= MOST_ADDED) throw new Refused(`An order takes at most ${MOST_ADDED} lamps of its own.`);
      if (order.lamps.added.some((l) => l.id === lamp.id)) throw new Refused(`“${lamp.id}” is added already.`, 'input', 'lamp.id');
      if (lamp.like === null) {
        if (LIT_FUNCTIONS.includes(lamp.function))
          throw new Refused('A lamp takes current: choose a kit that brings it, or add one like a lamp of a kit.', 'input', 'lamp.like');
        return command;
      }
      const [of, id] = lamp.like.split('/');
      const kit = c.sheets.kits.find((k) => k.id === of);
      const like = kit?.devices.find((d) => d.id === id);
      if (!kit || !like) throw new Refused('There is no such lamp in the kits of this order.', 'input', 'lamp.like');
      if (kit.devices.some((d) => d.id === lamp.id)) throw new Refused(`${kit.name} has a part “${lamp.id}” already.`, 'input', 'lamp.id');
      if (like.equipment?.function !== lamp.function) throw new Refused(`${like.name} does something else.`, 'input', 'lamp.function');
      return command;
    }
  }
}
