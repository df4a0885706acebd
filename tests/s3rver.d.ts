declare module 's3rver' {
  /** A small S3-style store on this machine, for tests. */
  export default class S3rver {
    constructor(options: { port: number; address: string; silent: boolean; directory: string; configureBuckets: { name: string }[] });
    run(): Promise<{ port: number; address: string }>;
    close(): Promise<void>;
  }
}
