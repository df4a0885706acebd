/** A figure with a unit of the metric system. */
const METRIC = /(?<![\w.,/-])-?\d[\d,.]*\s?(?:mm|cm|m|km|kg|N|N·m|Nm|°C|km\/h)(?![\w²³/·’-])/g;
/** A figure with one that is not. */
const IMPERIAL = /(?<![\w.,/-])-?\d[\d,.]*\s?(?:in|ft|mi|lb|lbf|°F|mph)(?![\w²³/·’-])/g;

/**
 * Names that hold a figure and are the same in every shop: tools and the holes they make, nautical miles, kits and rule packs by
 * their own names, and the words of a law.
 */
const NAMES = [
  /[\d/.]+\s(?:mm|in)\s(?:wrench|hex|socket|hole|step|drill|bit)[^,.;|]*/g,
  /[\d/]+ in and [\d/]+ in/g,
  /Winch [\d,]+ lb/g,
  /Navigation lights, [^|]*/g,
  /(?:heard|seen|readable|shows|behind)[^|]*? [\d.]+ ft[^|]*/gi,
  // the scale that a print is measured by
  /100 mm above, 4 in below: measure/g,
  // a law's own words, in the titles of its items and its citations
  /[\d,.]+ (?:in|ft|lb|mph|m) (?:clear|apart|long|above|by day|behind)/g,
  /(?:under|over) [\d,]+ lb/g,
  /(?:49|33|16) CFR[^|;)]*/g,
  /(?:at least|under|to under|above) [\d.]+ m (?:above|long|to)[^|]*/g,
];

/**
 * Figures in a unit that a shop's own system does not have, each with what stands around it.
 * @param text words of a screen or a paper
 */
export function inOtherUnits(text: string, shops: 'imperial' | 'metric'): string[] {
  const plain = NAMES.reduce((t, name) => t.replace(name, ' '), text.replace(/\n/g, ' | '));
  return [...plain.matchAll(shops === 'imperial' ? METRIC : IMPERIAL)].map((m) =>
    plain.slice(Math.max(0, m.index - 40), m.index + m[0].length + 15).trim(),
  );
}
