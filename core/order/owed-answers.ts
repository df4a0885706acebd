import type { Order } from '#model/order';

/** Answers that are owed: by the owner to what turned up, and to the owner’s questions. */
export const owedAnswers = ({ money, questions }: Pick<Order, 'money' | 'questions'>) => ({
  extras: (money?.extras ?? []).filter((e) => !e.answer).length,
  questions: (questions ?? []).filter((q) => !q.answer).length,
});
