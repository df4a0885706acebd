// Rebuilds every order of every shop from its events, compares it with what is stored, and checks every hash. A shop that runs goes on.
import { serverCommand } from './lib/with-database.mjs';

await serverCommand(['check-record']);
