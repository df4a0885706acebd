import { jobKey, type Job } from '#model/job';
import { step, yes, type PlannedStep } from './planned';

/** A job of an order as steps: it is done, and then proved where it was done. */
export const jobSteps = (jobs: readonly Job[]): PlannedStep[] =>
  jobs.flatMap((j) => {
    const key = jobKey(j.id);
    const of = { kit: key, place: j.place };
    return [
      step({ ...of, id: `${key}/do`, stage: j.powerOff ? 'wire' : 'mount', title: j.title, text: j.text, minutes: j.minutes }),
      step({
        ...of,
        id: `${key}/prove`,
        stage: 'prove',
        title: `${j.title}: proved`,
        text: 'With power on, before anything is closed over it.',
        minutes: 1,
        proof: true,
        readings: [yes('proved', j.question)],
      }),
    ];
  });
