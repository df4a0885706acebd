/** A state of the switches as the Wire station reads it from its address. */
export const stateQuery = (s: { controls: Readonly<Record<string, string>> }): string =>
  new URLSearchParams({
    state: Object.entries(s.controls)
      .map(([c, p]) => `${c}=${p}`)
      .join(','),
  }).toString();
