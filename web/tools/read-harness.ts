import { HarnessFile, type Harness } from '#model/harness';

/** Reads a harness that was saved as JSON; every error says where it is. */
export function readHarness(text: string): { harness: Harness } | { problems: string[] } {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch (e) {
    return { problems: [`this is no JSON: ${(e as Error).message}`] };
  }
  const read = HarnessFile.safeParse(data);
  if (read.success) return { harness: read.data.harness };
  return { problems: read.error.issues.slice(0, 12).map((i) => `${i.path.join(', ') || 'the file'}: ${i.message}`) };
}
