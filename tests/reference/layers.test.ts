import { ESLint } from 'eslint';
import { describe, expect, it } from 'vitest';

const lint = new ESLint();
const errors = async (file: string, code: string) =>
  (await lint.lintText(code, { filePath: file }))[0]!.messages.filter((m) => m.ruleId === 'no-restricted-imports').map((m) => m.message);

describe('layers import only downwards', () => {
  it.each([
    ['model/x.ts', "import { a } from '#core/sum';\na();\n"],
    ['core/x.ts', "import { a } from '#server/app';\na();\n"],
    ['core/x.ts', "import { a } from '#web/app/api';\na();\n"],
    ['core/wire/x.ts', "import { readFileSync } from 'node:fs';\nreadFileSync('a');\n"],
    ['core/x.ts', "import { useState } from 'react';\nuseState();\n"],
    ['core/x.ts', "import { a } from '../web/app/api';\na();\n"],
    ['server/x.ts', "import { a } from '#web/app/api';\na();\n"],
    ['web/x.ts', "import { a } from '#server/app';\na();\n"],
    ['web/order/x.ts', "import { a } from '../../server/app';\na();\n"],
  ])('%s may not: %s', async (file, code) => expect(await errors(file, code)).toHaveLength(1));
  it.each([
    ['core/x.ts', "import { a } from '#model/kit';\na();\n"],
    ['server/x.ts', "import { a } from '#core/sum';\na();\n"],
    ['web/x.ts', "import { a } from '#core/sum';\na();\n"],
  ])('%s may: %s', async (file, code) => expect(await errors(file, code)).toEqual([]));
});
