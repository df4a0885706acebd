import pino, { type Logger } from 'pino';

/** After a failure, such as a full disk, the file is tried again this much later, ms. */
const AGAIN_MS = 15_000;

/** A log file that rolls daily and by size. While it cannot be written, lines go to the error output: nobody stops for a log. */
function rolling(file: string): pino.DestinationStream {
  const open = () => {
    const t = pino.transport({
      target: 'pino-roll',
      options: { file, frequency: 'daily', size: '10m', extension: '.log', limit: { count: 14 }, mkdir: true, sync: false },
    }) as pino.DestinationStream & { on(what: 'error', f: () => void): void };
    t.on('error', fail);
    return t;
  };
  let stream: pino.DestinationStream | null = null;
  function fail(): void {
    stream = null;
    setTimeout(() => (stream ??= open()), AGAIN_MS).unref();
  }
  stream = open();
  return {
    write(line: string) {
      try {
        if (stream) return void stream.write(line);
      } catch {
        fail();
      }
      process.stderr.write(line);
    },
  };
}

/** The server's log: in a file where one is named, else on the error output; never with a password, code or cookie. */
export const openLog = (level: string, file: string | undefined): Logger =>
  pino(
    { level, redact: ['req.headers.cookie', 'req.headers.authorization', '*.password', '*.code'] },
    file ? rolling(file) : pino.destination({ dest: 2, sync: true }),
  );
