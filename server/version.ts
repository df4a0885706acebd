import manifest from '../package.json';

/** Of Kadro, as its package says. */
export const VERSION: string = manifest.version;
