import { describe, expect, it } from 'vitest';
import { Kit } from '#model/kit';
import { UnitModel, ViewName } from '#model/unit-model';
import { demoIds, demoKit, demoModel } from '../../tests/demo-sheets';
import { unitView } from '../drawing/view';
import { planeBy } from '../photo/plane';
import { sheetChanges } from './edit-model';
import { landmarks, picturesOf, withPicture } from './pictures';

const PHOTO = 'a'.repeat(64);

describe('pictures of a sheet', () => {
  it('stand behind a view, are told when they change, and go again without a trace', () => {
    const m = demoModel('drover-2');
    const box = { x: -500, y: -1900, w: 2980, h: 1900 };
    const put = UnitModel.parse(withPicture(withPicture(m, 'side', { photo: PHOTO, box }), 'rear', { photo: PHOTO, box }));
    expect(picturesOf(put)).toEqual([PHOTO]);
    expect(sheetChanges(m, put)).toEqual(['Photograph behind the side view: another', 'Photograph behind the rear view: another']);
    expect(withPicture(withPicture(put, 'side', null), 'rear', null)).toEqual(m);
    expect(UnitModel.safeParse(withPicture(m, 'side', { photo: 'side.jpg', box })).error!.issues[0]!.message).toBe(
      'a picture goes by its SHA-256',
    );
    const kit = demoKit('roof-bar');
    const pictured = Kit.parse({ ...kit, steps: kit.steps.map((s) => ({ ...s, picture: PHOTO })) });
    expect([picturesOf(kit), picturesOf(pictured)]).toEqual([[], [PHOTO]]);
  });
  it('of every unit are found by points of it in every view: four that say how it lies', () => {
    for (const id of demoIds('models'))
      for (const view of ViewName.options) {
        const m = demoModel(id);
        const { x, y, w, h } = unitView(m, view).box;
        const all = landmarks(m, view);
        expect(new Set(all.map((l) => l.id)).size).toBe(all.length);
        for (const l of all.filter((a) => !a.id.startsWith('place/'))) {
          expect(l.at[0], `${id} ${view} ${l.name}`).toBeGreaterThanOrEqual(x);
          expect(l.at[0]).toBeLessThanOrEqual(x + w);
          expect(l.at[1]).toBeGreaterThanOrEqual(y);
          expect(l.at[1]).toBeLessThanOrEqual(y + h);
        }
        // a photograph at a tenth of the unit's size
        const points = all.map((l) => ({ u: l.at[0] / 10 + 3, v: l.at[1] / 10 - 4, x: l.at[0], y: l.at[1] }));
        expect(planeBy(points).rms).toBeLessThan(1e-6);
      }
  });
});
