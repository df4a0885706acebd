// What is done with shops from outside: which there are, a new one, who works where, groups, one that is removed.
import { serverCommand } from './lib/with-database.mjs';

await serverCommand(['shops', ...process.argv.slice(2)]);
