import { ImpossibleInput } from '../errors';

export interface Drum {
  ratedN: number;
  drumDiameterMm: number;
  drumWidthMm: number;
  ropeDiameterMm: number;
  ropeLengthM: number;
}
export interface Layer {
  layer: number;
  /** radius to the rope's centre line */
  radiusMm: number;
  pullN: number;
  /** rope on the drum below and up to this layer */
  ropeFromM: number;
  ropeToM: number;
}

/**
 * Pull on each layer of the drum: the rated pull is on the first (SAE J706), and the torque stays, so pull falls as the rope's
 * centre line moves out. Layers lie one on another with as many whole turns as the drum is wide. Source: geometry.
 * @throws ImpossibleInput for a drum narrower than its rope, or a rope that would need more than 20 layers
 */
export function winchLayers(d: Drum): Layer[] {
  const turns = Math.floor(d.drumWidthMm / d.ropeDiameterMm);
  if (turns < 1) throw new ImpossibleInput('the drum is narrower than its rope', 'drumWidthMm');
  const out: Layer[] = [];
  const first = (d.drumDiameterMm + d.ropeDiameterMm) / 2;
  let from = 0;
  for (let layer = 1; from < d.ropeLengthM - 1e-9; layer++) {
    if (layer > 20) throw new ImpossibleInput('so much rope does not fit this drum: check its length and the drum', 'ropeLengthM');
    const radiusMm = first + (layer - 1) * d.ropeDiameterMm;
    const holds = (2 * Math.PI * radiusMm * turns) / 1000;
    const to = Math.min(d.ropeLengthM, from + holds);
    out.push({ layer, radiusMm, pullN: (d.ratedN * first) / radiusMm, ropeFromM: from, ropeToM: to });
    from = to;
  }
  return out;
}
