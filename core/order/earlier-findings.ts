/** A finding made on an earlier unit of the same model, with what people since have said of it. */
export interface EarlierFinding {
  /** the order it was made on and the number of its event there, as `ORDER:SEQ` */
  key: string;
  order: string;
  number: number;
  at: string;
  by: string;
  text: string;
  build: string;
  /** the step at which it was made, if it was at one */
  step: string | null;
  /** a picture of it */
  photo: string | null;
  confirmed: number;
  /** who said last that it is no longer so; null: nobody, or it was confirmed since */
  outdated: { by: string; at: string } | null;
}

/** What somebody said of a finding, in the order in which it was said. */
export interface Judgement {
  key: string;
  /** the order on which it was said; of several words there the last counts */
  from: string;
  still: boolean;
  by: string;
  at: string;
}

/** Puts what was said since beside each finding. The last word counts; confirmations add up until somebody says it is outdated. */
export function judged(findings: readonly Omit<EarlierFinding, 'confirmed' | 'outdated'>[], said: readonly Judgement[]): EarlierFinding[] {
  const last = said.filter((j, i) => !said.slice(i + 1).some((k) => k.key === j.key && k.from === j.from));
  return findings.map((f) => {
    let confirmed = 0;
    let outdated: EarlierFinding['outdated'] = null;
    for (const j of last) {
      if (j.key !== f.key) continue;
      if (j.still) {
        confirmed++;
        outdated = null;
      } else {
        confirmed = 0;
        outdated = { by: j.by, at: j.at };
      }
    }
    return { ...f, confirmed, outdated };
  });
}

/** Findings made on units of the same build: what was found on another says nothing of this one. */
export const ofBuild = (findings: readonly EarlierFinding[], build: string): EarlierFinding[] => findings.filter((f) => f.build === build);

/** Findings that belong at a step: made there on another unit of this build, and not said to be outdated. */
export const findingsAt = (findings: readonly EarlierFinding[], step: string, build: string): EarlierFinding[] =>
  ofBuild(findings, build)
    .filter((f) => f.step === step && !f.outdated)
    .sort((a, b) => b.confirmed - a.confirmed);
