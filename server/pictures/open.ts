import { isAbsolute, join } from 'node:path';
import { PictureFolder } from './folder';
import { PictureBucket } from './s3';
import type { PictureStore } from './store';

/**
 * The store that a setting names: a folder, or s3://BUCKET/PREFIX. Null where it names none: pictures lie in the database then, as
 * they do where several machines share one and nothing else.
 * @param env KADRO_PICTURES; for an S3-style store of one's own KADRO_S3_ENDPOINT, and AWS_REGION
 * @param below names a place in it, for a shop that shares the store with others
 * @throws Error in words for whoever starts it
 */
export function openPictures(env: NodeJS.ProcessEnv, below = ''): PictureStore | null {
  const named = env.KADRO_PICTURES;
  if (!named || named === 'database') return null;
  const s3 = /^s3:\/\/([a-z0-9][a-z0-9.-]{1,61}[a-z0-9])(?:\/(.*))?$/.exec(named);
  if (s3) {
    const [, bucket, prefix = ''] = s3;
    const endpoint = env.KADRO_S3_ENDPOINT;
    if (endpoint && !/^https?:\/\//.test(endpoint))
      throw new Error(`KADRO_S3_ENDPOINT is “${endpoint}”: write an address such as https://store.example.`);
    return new PictureBucket({
      bucket: bucket!,
      prefix: `${prefix && !prefix.endsWith('/') ? `${prefix}/` : prefix}${below && `${below}/`}`,
      region: env.AWS_REGION ?? 'us-east-1',
      ...(endpoint && { endpoint }),
    });
  }
  if (named.includes('://') || !isAbsolute(named))
    throw new Error(`KADRO_PICTURES is “${named}”: name a folder from / on, s3://BUCKET/PREFIX, or “database”.`);
  return new PictureFolder(join(named, below));
}
