/** A name as an id of at most so many: lower-case letters, digits and single dashes; `item` where nothing of it is left. */
export const slugOf = (name: string, most = 40): string =>
  name
    .toLowerCase()
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/[^a-z0-9]+/g, '-')
    .slice(0, most)
    .replace(/^-+|-+$/g, '') || 'item';

/** A name as an id that is not taken yet. */
export function freeId(name: string, taken: readonly string[]): string {
  const slug = slugOf(name);
  let id = slug;
  for (let i = 2; taken.includes(id); i++) id = `${slug}-${i}`;
  return id;
}

/** What the shelf calls something by its name. */
export const shelfId = (name: string): string => slugOf(name, 60);
