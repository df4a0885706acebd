/** Input that cannot be: the message is for a person at a bench; `path` names the field where there is one. */
export class ImpossibleInput extends Error {
  override readonly name = 'ImpossibleInput';
  constructor(
    message: string,
    readonly path?: string,
  ) {
    super(message);
  }
}
