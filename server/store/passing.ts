/** Errors of the database that pass by themselves, told apart from those that are a mistake of ours. */

/** Nothing was done: the same again may go through at once. */
const TRY_AGAIN = new Set([
  'ER_LOCK_DEADLOCK',
  'ER_LOCK_WAIT_TIMEOUT',
  // a node that is not in the quorum
  'ER_UNKNOWN_COM_ERROR',
]);

/** Nobody is there, or whoever was there is gone: another node may be. */
const GONE = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'PROTOCOL_CONNECTION_LOST',
  'PROTOCOL_ENQUEUE_AFTER_FATAL_ERROR',
  'ER_SERVER_SHUTDOWN',
  'ER_CONNECTION_KILLED',
]);

const AWAY = new Set([
  ...TRY_AGAIN,
  ...GONE,
  'ETIMEDOUT',
  'ENOTFOUND',
  'EAI_AGAIN',
  'PROTOCOL_SEQUENCE_TIMEOUT',
  'ER_CON_COUNT_ERROR',
  'ER_QUERY_INTERRUPTED',
  'ER_STATEMENT_TIMEOUT',
  'ER_ERROR_DURING_COMMIT',
  'ER_CHECKREAD',
]);

/** The database's disk has no room. */
const FULL = new Set(['ER_DISK_FULL', 'ER_RECORD_FILE_FULL', 'ER_ERROR_ON_WRITE', 'ER_TEMP_FILE_WRITE_FAILURE', 'ER_CANT_CREATE_FILE']);

/** What a node of a cluster with a full disk says to all that is to be committed there: nothing was done, and others have room. */
const NO_ROOM_TO_TELL = /^Maximum writeset size exceeded/;

const messageOf = (e: unknown): string => (e as Error | null)?.message ?? '';
const codeOf = (e: unknown): string => (e as { code?: string } | null)?.code ?? '';
const QUEUE_FULL = /Queue limit reached|Pool is closed/;

/** The connection is no more. */
export const isAway = (e: unknown): boolean => GONE.has(codeOf(e));
export const isTriedAgain = (e: unknown): boolean => TRY_AGAIN.has(codeOf(e)) || NO_ROOM_TO_TELL.test(messageOf(e));
export const isFull = (e: unknown): boolean =>
  FULL.has(codeOf(e)) || NO_ROOM_TO_TELL.test(messageOf(e)) || /No space left|\b28\b.*errno|errno: 28/i.test(messageOf(e));
/** The record is out of reach, or busy, for a moment: worth sending again as it is. */
export const isPassing = (e: unknown): boolean => {
  const { fatal } = (e ?? {}) as { fatal?: boolean };
  const code = codeOf(e);
  return (
    AWAY.has(code) ||
    isFull(e) ||
    QUEUE_FULL.test(messageOf(e)) ||
    (fatal === true && code !== '' && !code.startsWith('ER_ACCESS') && code !== 'ER_BAD_DB_ERROR')
  );
};
