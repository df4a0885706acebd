/**
 * Where the bytes of pictures are kept, by the SHA-256 of them. The database knows which there are, and what they are; what is once
 * kept under its hash never changes, so everybody may write the same at once.
 */
export interface PictureStore {
  /** in words, for whoever looks after it */
  readonly where: string;
  /** Done once it outlives the machine. Of what is there already nothing is written. */
  put(id: string, type: string, bytes: Buffer): Promise<void>;
  /** null: it is not there */
  get(id: string): Promise<Buffer | null>;
  /** With its shop a picture goes, and never otherwise. */
  remove(id: string): Promise<void>;
}

/** The store does not answer, or takes no more: nothing is lost by asking again. */
export class PicturesAway extends Error {
  override readonly name = 'PicturesAway';
  constructor(
    readonly where: string,
    cause: unknown,
  ) {
    super(`${where}: ${(cause as Error).message}`, { cause });
  }
}
/** Says of whatever goes wrong with a store that it was the store. */
export const orAway = <T>(where: string, asked: Promise<T>): Promise<T> =>
  asked.catch((e: unknown) => {
    throw new PicturesAway(where, e);
  });
