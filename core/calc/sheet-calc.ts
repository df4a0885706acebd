import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { z } from 'zod';
import { canonical } from '../canonical';
import { sum } from '../sum';
import { calculation, field } from './calculation';
import { GivenSheet, kindOf, readGiven } from './given-sheets';
import { EXAMPLE_KIT } from './example-sheets';

export const sheetCheck = calculation({
  name: 'sheet.check',
  title: 'Check a sheet',
  description: 'Every problem of a sheet of a model, a kit or a rule pack, with its path, and the hash that its revision is told by.',
  input: { sheet: field(GivenSheet, 'Sheet, whole file or its part “sheet”') },
  result: {
    kind: z.enum(['model', 'kit', 'rules']),
    problems: z.array(z.object({ path: z.string(), message: z.string() })),
    revisionHash: z.string(),
  },
  example: { sheet: EXAMPLE_KIT },
  run: ({ sheet }) => {
    const kind = kindOf(sheet);
    const { problems } = readGiven(sheet, kind);
    // a revision is what the sheet says, whatever envelope it came in
    const body = 'kadro' in sheet ? sheet.sheet : sheet;
    const revisionHash = bytesToHex(sha256(utf8ToBytes(canonical(body ?? null))));
    return {
      kind,
      problems,
      revisionHash,
      sum: sum(
        { label: 'Kind of sheet', value: kind },
        ...problems.slice(0, 20).map((p) => ({ label: p.path || 'the sheet', value: p.message })),
        { label: 'Problems', value: problems.length, kind: 'result' as const },
        { label: 'Revision', value: revisionHash.slice(0, 12), source: 'SHA-256 of its canonical JSON (RFC 8785)', kind: 'note' as const },
      ),
    };
  },
});
