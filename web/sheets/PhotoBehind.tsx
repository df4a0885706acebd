import { chakra } from '@chakra-ui/react';
import { useEffect, useMemo, useState } from 'react';
import { unitView } from '#core/drawing/view';
import { planeBy, turnedBy, type Plane } from '#core/photo/plane';
import { shownBox, straightened } from '#core/photo/straighten';
import { showQuantity } from '#core/quantity/quantity';
import { landmarks, withPicture } from '#core/sheets/pictures';
import { ViewName, type UnitModel } from '#model/unit-model';
import { useUnits } from '../app/context';
import { Act, Choice, Labelled, ServerAct, Sheet } from '../app/ui';
import { smallPicture } from '../device/photos';
import { ChoosePicture, sendPicture } from './SheetPicture';

const NAME: Record<ViewName, string> = { side: 'from its right', top: 'from above', front: 'from the front', rear: 'from the rear' };
/** A larger picture is made smaller first: nobody touches finer than this. */
const SIDE_PX = 2000;
/** What is kept of it across the whole view. */
const KEPT_PX = 1600;
const FOR_PLANE = 4;

interface Mark {
  landmark: string;
  u: number;
  v: number;
}

/** The photograph that is being put behind a view, its pixels where it is small enough to be worked on. */
interface Chosen {
  url: string;
  canvas: OffscreenCanvas;
}

async function opened(file: File): Promise<Chosen> {
  const canvas = await smallPicture(file, SIDE_PX);
  return { url: URL.createObjectURL(await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.9 })), canvas };
}

/** Puts a photograph behind a view: two points that are known set its size, four straighten it. */
export function PhotoBehind({ model, onChange, onDone }: { model: UnitModel; onChange: (m: UnitModel) => void; onDone: () => void }) {
  const units = useUnits();
  const [view, setView] = useState<ViewName>('side');
  const [chosen, setChosen] = useState<Chosen | null>(null);
  const [marks, setMarks] = useState<Mark[]>([]);
  const [touched, setTouched] = useState<[number, number] | null>(null);
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);
  const known = useMemo(() => landmarks(model, view), [model, view]);
  const url = chosen?.url;
  useEffect(() => () => void (url && URL.revokeObjectURL(url)), [url]);
  const points = marks.flatMap((m) => {
    const l = known.find((k) => k.id === m.landmark);
    return l ? [{ u: m.u, v: m.v, x: l.at[0], y: l.at[1] }] : [];
  });
  const found = useMemo((): { plane: Plane | null; says: string } => {
    if (points.length < 2) return { plane: null, says: 'Two points that are known set its size; four or more straighten it.' };
    try {
      const plane = points.length < FOR_PLANE ? turnedBy(points) : planeBy(points);
      const off = showQuantity(plane.rms, 'smallLength', units, 2);
      const how = points.length < FOR_PLANE ? 'Turned and sized' : 'Straightened';
      return { plane, says: points.length === 2 || points.length === FOR_PLANE ? `${how}.` : `${how}; the points lie off by ${off}.` };
    } catch (e) {
      return { plane: null, says: `${(e as Error).message}.` };
    }
  }, [JSON.stringify(points), units]); // eslint-disable-line react-hooks/exhaustive-deps
  const there = model.pictures?.[view];
  const begin = (v: ViewName) => {
    setView(v);
    setMarks([]);
    setTouched(null);
    setWrong(null);
  };
  const put = async () => {
    const { canvas } = chosen!;
    const { h } = found.plane!;
    const within = unitView(model, view).box;
    const box = shownBox(h, canvas, within);
    if (!box) throw new Error('By these points the photograph shows nothing of the unit.');
    const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
    const flat = straightened({ data, width: canvas.width, height: canvas.height }, h, box, Math.round((KEPT_PX * box.w) / within.w));
    const out = new OffscreenCanvas(flat.width, flat.height);
    out.getContext('2d')!.putImageData(new ImageData(new Uint8ClampedArray(flat.data), flat.width, flat.height), 0, 0);
    const photo = await sendPicture(await out.convertToBlob({ type: 'image/png' }));
    onChange(withPicture(model, view, { photo, box }));
    onDone();
  };
  return (
    <Sheet aria-label="A photograph behind the drawing" mb="10px" p="10px 14px">
      <chakra.div display="flex" gap="8px" alignItems="end" flexWrap="wrap">
        <Labelled id="photo-view" label="Photograph of the unit">
          <Choice id="photo-view" value={view} onChange={(e) => begin(e.target.value as ViewName)}>
            {ViewName.options.map((v) => (
              <option key={v} value={v}>
                {NAME[v]}
                {model.pictures?.[v] ? ' (there is one)' : ''}
              </option>
            ))}
          </Choice>
        </Labelled>
        <ChoosePicture
          label={chosen ? 'Another photograph' : 'Choose the photograph'}
          onFile={async (f) => {
            setChosen(await opened(f));
            begin(view);
          }}
        />
        {there && (
          <Act look="quiet" onClick={() => onChange(withPicture(model, view, null))}>
            Take away the one that is there
          </Act>
        )}
        <Act onClick={onDone}>Leave it</Act>
      </chakra.div>
      <chakra.p mt="6px" fontSize="15px">
        {chosen
          ? touched
            ? 'Say which point of the unit that is.'
            : `Touch a point of the unit whose place is known. ${found.says}`
          : 'Taken from as far off as there is room, square to the unit, so that what is nearer looks little larger.'}
      </chakra.p>
      {touched && (
        <Labelled id="photo-point" label="The point that was touched is">
          <Choice
            id="photo-point"
            autoFocus
            value=""
            onChange={(e) => {
              if (e.target.value)
                setMarks([
                  ...marks.filter((m) => m.landmark !== e.target.value),
                  { landmark: e.target.value, u: touched[0], v: touched[1] },
                ]);
              setTouched(null);
            }}
          >
            <option value="">which point …</option>
            {known.map((k) => (
              <option key={k.id} value={k.id}>
                {k.name}
              </option>
            ))}
          </Choice>
        </Labelled>
      )}
      {chosen && (
        <chakra.div position="relative" mt="8px" maxW="760px">
          <chakra.img
            src={chosen.url}
            alt="The photograph: touch a known point of the unit"
            data-part="photograph"
            display="block"
            width="100%"
            cursor="crosshair"
            onClick={(e) => {
              const r = e.currentTarget.getBoundingClientRect();
              setTouched([((e.clientX - r.left) / r.width) * chosen.canvas.width, ((e.clientY - r.top) / r.height) * chosen.canvas.height]);
            }}
          />
          {[
            ...marks.map((m) => ({ ...m, name: known.find((k) => k.id === m.landmark)?.name ?? m.landmark })),
            ...(touched ? [{ u: touched[0], v: touched[1], landmark: '', name: 'touched' }] : []),
          ].map((m) => (
            <chakra.button
              key={m.landmark}
              type="button"
              position="absolute"
              width="24px"
              height="24px"
              ml="-12px"
              mt="-12px"
              borderRadius="50%"
              borderWidth="3px"
              borderColor={m.landmark ? 'accent' : 'tight'}
              style={{ left: `${(100 * m.u) / chosen.canvas.width}%`, top: `${(100 * m.v) / chosen.canvas.height}%` }}
              title={m.landmark ? `${m.name}: touch to take it out` : m.name}
              aria-label={m.landmark ? `Take out: ${m.name}` : m.name}
              onClick={() => (m.landmark ? setMarks(marks.filter((x) => x.landmark !== m.landmark)) : setTouched(null))}
            />
          ))}
        </chakra.div>
      )}
      {chosen && (
        <ServerAct
          mt="8px"
          look="main"
          disabled={!found.plane || busy}
          onClick={() => {
            setBusy(true);
            setWrong(null);
            put()
              .catch((e: unknown) => setWrong((e as Error).message))
              .finally(() => setBusy(false));
          }}
        >
          Put it behind the drawing
        </ServerAct>
      )}
      {wrong && (
        <chakra.p role="alert" color="fails">
          {wrong}
        </chakra.p>
      )}
    </Sheet>
  );
}
