import type { Kit } from '#model/kit';
import type { UnitModel, ViewName } from '#model/unit-model';
import type { Box } from '../photo/straighten';
import { unitView } from '../drawing/view';

/** The pictures that a sheet names, each once: those behind a model’s drawing, and those of a kit’s steps. */
export function picturesOf(sheet: Partial<Pick<UnitModel, 'pictures'> & Pick<Kit, 'steps'>>): string[] {
  const behind = Object.values(sheet.pictures ?? {}).map((p) => p.photo);
  return [...new Set([...behind, ...(sheet.steps ?? []).flatMap((s) => (s.picture ? [s.picture] : []))])];
}

/** A model with a photograph behind one of its views, or with none there. */
export function withPicture(m: UnitModel, view: ViewName, picture: { photo: string; box: Box } | null): UnitModel {
  const { [view]: _, ...others } = m.pictures ?? {};
  const pictures = picture ? { ...others, [view]: picture } : others;
  const { pictures: __, ...bare } = m;
  return Object.keys(pictures).length ? { ...bare, pictures } : bare;
}

/** A point of a unit that can be found on a photograph, and where it falls in a view, mm. */
export interface Landmark {
  id: string;
  name: string;
  at: [number, number];
}

/** What of a unit can be found on a photograph of one of its sides: hubs and where wheels stand, its ends, and its places. */
export function landmarks(m: UnitModel, view: ViewName): Landmark[] {
  const { at } = unitView(m, view);
  const { lengthMm, widthMm, heightMm, wheelbaseMm, wheelMm, rearOverhangMm } = m.dims;
  const [front, rear, side, hub] = [lengthMm - rearOverhangMm, -rearOverhangMm, widthMm / 2, wheelMm / 2];
  const of = (id: string, name: string, x: number, y: number, z: number): Landmark => ({ id, name, at: at({ x, y, z }) });
  const wheels = wheelbaseMm > 0;
  const seen: Record<ViewName, Landmark[]> = {
    side: [
      ...(wheels
        ? [
            of('front-hub', 'Middle of the front wheel', wheelbaseMm, 0, hub),
            of('rear-hub', 'Middle of the rear wheel', 0, 0, hub),
            of('front-wheel', 'Where the front wheel stands', wheelbaseMm, 0, 0),
            of('rear-wheel', 'Where the rear wheel stands', 0, 0, 0),
          ]
        : []),
      of('front-top', 'Corner of its front end and its top', front, 0, heightMm),
      of('rear-top', 'Corner of its rear end and its top', rear, 0, heightMm),
    ],
    top: [
      of('front-left', 'Front left corner', front, side, 0),
      of('front-right', 'Front right corner', front, -side, 0),
      of('rear-left', 'Rear left corner', rear, side, 0),
      of('rear-right', 'Rear right corner', rear, -side, 0),
    ],
    front: ends(),
    rear: ends(),
  };
  function ends(): Landmark[] {
    return [
      of('left-ground', 'Ground under its left edge', 0, side, 0),
      of('right-ground', 'Ground under its right edge', 0, -side, 0),
      of('left-top', 'Corner of its left edge and its top', 0, side, heightMm),
      of('right-top', 'Corner of its right edge and its top', 0, -side, heightMm),
    ];
  }
  return [...seen[view], ...m.places.map((p) => of(`place/${p.id}`, p.name, p.x, p.y, p.z))];
}
