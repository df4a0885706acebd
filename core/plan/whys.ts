import { cutsInto } from './cautions';
import type { PlannedStep } from './planned';

type Reason = [applies: (s: PlannedStep) => boolean, why: string];
const id =
  (...begins: string[]) =>
  (s: PlannedStep): boolean =>
    begins.some((b) => s.id.startsWith(b));
const stage =
  (...stages: PlannedStep['stage'][]) =>
  (s: PlannedStep): boolean =>
    stages.includes(s.stage);

/** Why each kind of step is done, as it is told to whoever does it for the first time; the first that applies. Common practice, no source. */
const REASONS: readonly Reason[] = [
  [id('safe/off'), 'What is not live cannot start, move or bite.'],
  [id('safe/rest'), 'A weak battery makes every later reading wrong; how it came is known only now.'],
  [id('safe/tow'), 'In TOW the controller sleeps: the unit cannot move, whatever is touched.'],
  [id('safe/'), 'With a pole off, a wrench that slips makes no arc.'],
  [stage('unpack'), 'What is missing or broken is ordered while the unit can still be driven.'],
  [stage('find'), 'A wire is what it does, not what its colour says; with the power off nobody can tell any more.'],
  [stage('open'), 'What is counted as it comes out is missed if it does not go back.'],
  [stage('bench-test'), 'What is dead out of its box is found here in minutes, in the unit in an hour.'],
  [id('take/'), 'What comes off with its screws can go back: the owner may ask for it.'],
  [id('cut/'), 'Both sides of a cut wire look alike: they are told apart now or never.'],
  [id('lay/'), 'Tied before its ends are on, a harness is a hand too short at the last of them.'],
  [
    (s) => s.readings.some((r) => r.id === 'dry'),
    'Tape and glue hold by how clean, warm and long, not by how hard; what sticks crooked stays so.',
  ],
  [
    (s) => stage('mount', 'wire')(s) && cutsInto(s),
    'A hole too small can be opened; one too large, or into a fuel line, cannot be closed.',
  ],
  [(s) => s.readings.some((r) => r.id === 'torque'), 'Tight before it is aligned, it pulls crooked, and comes loose.'],
  [(s) => stage('wire')(s) && s.readings.some((r) => r.id === 'tugged'), 'A crimp that gives at a tug would have given on the road.'],
  [stage('wire'), 'A plug that did not click works today and drops out at the first bump.'],
  [stage('mount'), 'What is loose chafes, and what is tightened before it is aligned sits crooked.'],
  [stage('power-up'), 'The last touch sparks: at the minus, away from what was worked on. Fuses one at a time tell which circuit it is.'],
  [id('volts/'), 'Without its load a bad joint reads full volts; with it, it shows.'],
  [id('feed/'), 'A feed that stays live with the key off flattens the battery by Monday.'],
  [id('prove/charging'), 'What the source cannot carry, the battery gives, until it is flat.'],
  [id('prove/asleep'), 'A module that is still awake draws as much as a lamp left on: the reading would blame the new wires.'],
  [id('prove/parked'), 'A few milliamperes too many flatten a parked battery in weeks.'],
  [id('prove/bars'), 'The first full lock must not be out on the road.'],
  [stage('prove'), 'Found now, with everything open, a fault costs minutes; closed, an hour.'],
  [stage('tie'), 'What hangs is caught or chafes; what chafes burns.'],
  [(s) => stage('close')(s) && s.panel !== null, 'A wire under an edge is cut by the first bump, not today.'],
  [id('close/last-run'), 'A plug may let go as the last panel goes on.'],
  [id('close/ride'), 'Shaking shows what standing does not.'],
  [stage('close'), 'What is set once everything is closed is as it will be used.'],
];

/** Why a step is done: as its sheet says, else by its kind; empty where nothing is known. */
export const whyOf = (s: PlannedStep): string => s.why || (REASONS.find(([applies]) => applies(s))?.[1] ?? '');
