import { z } from 'zod';

/** How the shop's machines do, in figures: of the server that was asked, the database that it asks, and the shop's record. */
export const SystemState = z.object({
  server: z.object({
    version: z.string(),
    since: z.iso.datetime(),
    /** answers given lately, and how long they took, ms; null before the first */
    answered: z.number().int(),
    medianMs: z.number().nullable(),
    p95Ms: z.number().nullable(),
    /** faults of the server since it started */
    faults: z.number().int(),
    screens: z.number().int(),
  }),
  /** servers that said within a minute that they live */
  servers: z.array(z.object({ version: z.string(), since: z.iso.datetime() })),
  database: z.object({
    ready: z.boolean(),
    /** name of the node that is asked; null: one database by itself */
    node: z.string().nullable(),
    nodes: z.number().int(),
    /** how many there should be */
    nodesWanted: z.number().int(),
  }),
  disk: z.object({ freeBytes: z.number(), bytes: z.number() }).nullable(),
  record: z.object({ orders: z.number().int(), events: z.number().int(), pictures: z.number().int() }),
  backup: z.object({ at: z.iso.datetime(), bytes: z.number(), file: z.string() }).nullable(),
  /** a shop to try things in: nobody backs it up */
  demo: z.boolean(),
});
export type SystemState = z.infer<typeof SystemState>;

/** Where somebody is signed in. */
export const OpenSession = z.object({
  id: z.string(),
  device: z.enum(['computer', 'tablet', 'telephone', 'unknown']),
  address: z.string().nullable(),
  begunAt: z.iso.datetime().nullable(),
  seenAt: z.iso.datetime().nullable(),
  /** the one that asks */
  here: z.boolean(),
});
export type OpenSession = z.infer<typeof OpenSession>;
