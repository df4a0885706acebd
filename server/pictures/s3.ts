import type { S3Client } from '@aws-sdk/client-s3';
import type { PictureStore } from './store';

/** A store that speaks S3: which bucket, under which prefix, and at which address where that is not the usual one. */
export interface S3Place {
  bucket: string;
  prefix: string;
  endpoint?: string;
  region: string;
}

/** Longer than this nobody waits for an answer, ms. */
const ANSWER_MS = 8000;
const TRIES = 3;

/** Pictures as objects of an S3-style store, by their hash, as the files of a folder would lie in it: the one is copied to the other as it is. Who may is known by the usual AWS_ACCESS_KEY_ID and AWS_SECRET_ACCESS_KEY. */
export class PictureBucket implements PictureStore {
  readonly where: string;
  private client: Promise<S3Client> | null = null;
  constructor(private readonly place: S3Place) {
    this.where = `s3://${place.bucket}/${place.prefix}${place.endpoint ? ` at ${place.endpoint}` : ''}`;
  }

  /** Loaded where it is wanted: most shops have none. */
  private opened(): Promise<S3Client> {
    const { endpoint, region } = this.place;
    return (this.client ??= import('@aws-sdk/client-s3').then(
      ({ S3Client: Client }) =>
        new Client({
          region,
          maxAttempts: TRIES,
          requestHandler: { requestTimeout: ANSWER_MS, connectionTimeout: ANSWER_MS },
          // a store of one’s own seldom has a name for each bucket
          ...(endpoint && { endpoint, forcePathStyle: true }),
        }),
    ));
  }

  private keyOf(id: string): { Bucket: string; Key: string } {
    return { Bucket: this.place.bucket, Key: `${this.place.prefix}${id.slice(0, 2)}/${id}` };
  }

  async put(id: string, type: string, bytes: Buffer): Promise<void> {
    const { PutObjectCommand } = await import('@aws-sdk/client-s3');
    await (await this.opened()).send(new PutObjectCommand({ ...this.keyOf(id), Body: bytes, ContentType: type }));
  }

  async get(id: string): Promise<Buffer | null> {
    const { GetObjectCommand, NoSuchKey } = await import('@aws-sdk/client-s3');
    try {
      const got = await (await this.opened()).send(new GetObjectCommand(this.keyOf(id)));
      return got.Body ? Buffer.from(await got.Body.transformToByteArray()) : null;
    } catch (e) {
      if (e instanceof NoSuchKey) return null;
      throw e;
    }
  }

  async remove(id: string): Promise<void> {
    const { DeleteObjectCommand } = await import('@aws-sdk/client-s3');
    await (await this.opened()).send(new DeleteObjectCommand(this.keyOf(id)));
  }
}
