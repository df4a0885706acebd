import { z } from 'zod';
import { words } from '#model/common';
import { stopClocks } from './clock';
import { ALL, event, ForTheRecord, LEADS, Refused } from './definition';
import { reason, stepId } from './shapes';

/** Characters of a calculation's input that an order keeps. */
const MOST_KEPT = 20_000;

export const handoverEvents = [
  event({
    type: 'proof.overridden',
    may: LEADS,
    records: { proof: stepId, title: words(200), reason },
    asks: { proof: stepId, reason },
    decide: (command, _order, c) => {
      const proof = c.assessment.proofs.find((p) => p.step.id === command.proof);
      if (!proof) throw new Refused('That is not a proof of this order.', 'input', 'proof');
      if (proof.state === 'proved') throw new Refused(`“${proof.step.title}” is proved: there is nothing to pass.`);
      return { ...command, title: proof.step.title };
    },
    apply: (order, e, stamp) => ({
      ...order,
      proofOverrides: [...order.proofOverrides.filter((p) => p.proof !== e.proof), { proof: e.proof, reason: e.reason, ...stamp }],
    }),
    touches: (c) => [`proof.${c.proof}`],
    says: (e) => `Passed without proof: ${e.title}, because ${e.reason}`,
  }),
  event({
    type: 'handover.signed',
    may: ALL,
    records: {
      name: words(80),
      strokes: z.string().min(10, 'the signature is empty').max(60_000, 'the signature is too long'),
    },
    apply: (order, e, stamp) => ({ ...order, signature: { name: e.name, strokes: e.strokes, ...stamp } }),
    touches: () => ['signature'],
    says: (e) => `Signed by ${e.name}`,
  }),
  event({
    type: 'order.sealed',
    may: ALL,
    undo: 'final',
    records: { sheetHash: z.string().length(64) },
    /** `seen`: how many open points the person was shown */
    asks: { seen: z.number().int().min(0).max(10_000).optional() },
    decide: ({ seen = 0 }, _order, c) => {
      const { blocks, open } = c.assessment;
      if (blocks.length) throw new Refused(`Not yet: ${blocks[0]}${blocks.length > 1 ? `, and ${blocks.length - 1} more` : ''}.`);
      if (seen !== open.length)
        throw new Refused(
          open.length
            ? `Look first at what is open (${open.length}): ${open[0]!.says}${open.length > 1 ? ', and more' : ''}.`
            : 'Nothing is open any more: look again, then seal.',
        );
      // the sheet is sealed over the whole history, which only the record has
      if (!c.known.seal) throw new ForTheRecord('the sealed sheet');
      return { type: 'order.sealed', sheetHash: c.known.seal() };
    },
    apply: (order, _e, { at }) => ({ ...stopClocks(order, at, () => true), status: 'sealed', sealedAt: at }),
    touches: () => ['*'],
    says: () => 'Handed over and sealed',
  }),
  event({
    type: 'addition.made',
    may: ALL,
    takenWhen: ['open', 'sealed'],
    undo: 'final',
    records: { text: words(1000) },
    decide: (command, order) => {
      if (order.status !== 'sealed') throw new Refused('Additions are for sealed orders; this one is still open, so add a finding.');
      return command;
    },
    apply: (order, e, stamp) => ({ ...order, additions: [...order.additions, { ...stamp, text: e.text }] }),
    touches: () => [],
    says: (e) => `Addition: ${e.text}`,
  }),
  event({
    type: 'calc.kept',
    may: ALL,
    records: {
      name: words(40),
      input: z
        .record(z.string().max(60), z.unknown())
        .refine((v) => JSON.stringify(v).length <= MOST_KEPT, 'too much to keep with an order: keep the answer only'),
      answer: words(300),
    },
    apply: (order, e, stamp) => ({ ...order, kept: [...order.kept, { ...stamp, name: e.name, answer: e.answer }] }),
    touches: () => [],
    says: (e) => `Calculation ${e.name}: ${e.answer}`,
  }),
] as const;
