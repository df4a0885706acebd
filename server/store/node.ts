import { rows, type Directory, type Shop } from './db';

/** The database that a server asks: one by itself, or a node of a cluster. */
export interface NodeState {
  /** it answers, and is in the quorum */
  ready: boolean;
  /** name of the node; null for a database by itself */
  name: string | null;
  /** how many hold the same record, as far as it sees */
  nodes: number;
  /** changes of others that it has yet to take in */
  waiting: number;
}

/** How the database at hand stands. @throws as any question to it, when it does not answer */
export async function nodeState(shop: Shop | Directory): Promise<NodeState> {
  const found = await rows<{ n: string; v: string }>(
    shop,
    `SELECT VARIABLE_NAME n, VARIABLE_VALUE v FROM information_schema.GLOBAL_STATUS
     WHERE VARIABLE_NAME IN ('WSREP_READY', 'WSREP_CLUSTER_SIZE', 'WSREP_LOCAL_RECV_QUEUE', 'WSREP_CONNECTED')`,
  );
  const of = new Map(found.map((r) => [r.n, r.v]));
  if (of.get('WSREP_CONNECTED') !== 'ON') return { ready: true, name: null, nodes: 1, waiting: 0 };
  const [named] = await rows<{ v: string }>(
    shop,
    "SELECT VARIABLE_VALUE v FROM information_schema.GLOBAL_VARIABLES WHERE VARIABLE_NAME = 'WSREP_NODE_NAME'",
  );
  return {
    ready: of.get('WSREP_READY') === 'ON',
    name: named?.v ?? null,
    nodes: Number(of.get('WSREP_CLUSTER_SIZE')) || 0,
    waiting: Number(of.get('WSREP_LOCAL_RECV_QUEUE')) || 0,
  };
}
