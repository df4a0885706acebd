// How much of this machine's time others take: where it is a guest, its host says so as "stolen" time.
import { existsSync, readFileSync } from 'node:fs';

const LOOK_MS = 500;
/** So many looks are judged together, the last four seconds: less is made up for by who was waiting. */
const LOOKS = 8;

/** Hundredths of a second since it began, of all processors: in all, and stolen. Null where nobody says. */
function times() {
  if (!existsSync('/proc/stat')) return null;
  const t = readFileSync('/proc/stat', 'utf8').split('\n')[0].trim().split(/\s+/).slice(1, 9).map(Number);
  return { all: t.reduce((a, b) => a + b, 0), stolen: t[7] ?? 0 };
}

/** @returns how to ask for the largest share taken in four seconds since it was last asked, 0 to 1, and how to end it */
export function watchStolen() {
  const seen = [times()];
  let most = 0;
  const timer = setInterval(() => {
    const now = times();
    if (!now) return;
    seen.push(now);
    if (seen.length > LOOKS) seen.shift();
    const [first] = seen;
    if (now.all > first.all) most = Math.max(most, (now.stolen - first.stolen) / (now.all - first.all));
  }, LOOK_MS);
  return {
    most: () => {
      const was = most;
      most = 0;
      return was;
    },
    end: () => clearInterval(timer),
  };
}
