import { statfs } from 'node:fs/promises';
import { z } from 'zod';
import { OpenSession, SystemState } from '#model/system';
import { nodeState } from '../store/node';
import { endSessionOf, sessionsOf } from '../store/sessions';
import { aliveServers, lastBackup, sizeOf } from '../store/system';
import { Problem } from './problem';
import { route } from './route';
import { tokenOf } from './session';

/** Bytes of the disk that holds the shop; null where the record is elsewhere. */
async function diskOf(): Promise<SystemState['disk']> {
  const folder = process.env.KADRO_HOME;
  const s = folder ? await statfs(folder).catch(() => null) : null;
  return s && { freeBytes: s.bavail * s.bsize, bytes: s.blocks * s.bsize };
}

export const systemRoutes = [
  route({
    method: 'get',
    path: '/api/system',
    summary: 'How the shop’s machines do: database, disk, backup, answers, servers',
    action: 'system.see',
    result: SystemState,
    handle: async (_c, { shop, watch, demo }): Promise<SystemState> => {
      const [node, servers, disk, record, backup] = await Promise.all([
        nodeState(shop),
        aliveServers(shop),
        diskOf(),
        sizeOf(shop),
        lastBackup(shop),
      ]);
      return {
        server: watch.lately(),
        servers: servers.map((s) => ({ version: s.version, since: s.since.toISOString() })),
        database: {
          ready: node.ready,
          node: node.name,
          nodes: node.nodes,
          nodesWanted: Math.max(node.nodes, Number(process.env.KADRO_NODES) || 1),
        },
        disk,
        record,
        backup: backup && { at: backup.at.toISOString(), bytes: Number(backup.bytes), file: backup.file },
        demo,
      };
    },
  }),
  route({
    method: 'get',
    path: '/api/session/all',
    summary: 'Where the person who asks is signed in',
    result: z.array(OpenSession),
    handle: async ({ req, person }, { shop }) => sessionsOf(shop, person.id, tokenOf(req.headers.cookie) ?? ''),
  }),
  route({
    method: 'delete',
    path: '/api/session/all/:session',
    summary: 'End one’s own session somewhere else; `others` ends all but this one',
    handle: async ({ req, params, person }, { shop }) => {
      const ended = await endSessionOf(shop, person.id, params.session!, tokenOf(req.headers.cookie) ?? '');
      if (!ended && params.session !== 'others') throw new Problem(404, 'Not here', 'That session is over already.');
      return { ended };
    },
  }),
];
