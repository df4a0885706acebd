import { chakra } from '@chakra-ui/react';
import { Users } from 'lucide-react';
import type { PlannedStep } from '#core/plan/planned';
import type { WorkPlan } from '#core/plan/work';
import { zoneName } from '#core/plan/zones';
import type { UnitModel } from '#model/unit-model';

interface Bar {
  from: number;
  to: number;
  title: string;
}

/** From a step that opens something to the next that shuts it again. */
function spans(work: WorkPlan, opens: (s: PlannedStep) => boolean, shuts: (s: PlannedStep) => boolean): Bar[] {
  const out: Bar[] = [];
  let from: number | null = null;
  for (const s of work.steps) {
    const t = work.at.get(s.id)!;
    if (opens(s)) from ??= t;
    else if (shuts(s) && from !== null) {
      out.push({ from, to: t + s.minutes, title: `off at ${Math.round(from)} min, back at ${Math.round(t + s.minutes)} min` });
      from = null;
    }
  }
  return out;
}

const Row = ({ label, title, bars, total, tone }: { label: React.ReactNode; title?: string; bars: Bar[]; total: number; tone: string }) => (
  <chakra.div display="contents">
    <chakra.span
      minW={0}
      overflow="hidden"
      textOverflow="ellipsis"
      whiteSpace="nowrap"
      title={title ?? (typeof label === 'string' ? label : undefined)}
    >
      {label}
    </chakra.span>
    <chakra.div position="relative" height="22px" bg="sunk" borderRadius="3px">
      {bars.map((b) => (
        <chakra.div
          key={b.from}
          position="absolute"
          top="4px"
          bottom="4px"
          left={`${(b.from / total) * 100}%`}
          width={`${((b.to - b.from) / total) * 100}%`}
          minW="3px"
          bg={tone}
          borderRadius="3px"
          title={b.title}
        />
      ))}
    </chakra.div>
  </chakra.div>
);

/** Panels and power as bars from off to on over the minutes of the work, with where one stands and when two people are needed. */
export function PanelBars({ work, model }: { work: WorkPlan; model: UnitModel }) {
  const total = Math.max(1, work.cost.minutes + work.idle.reduce((s, x) => s + x.minutes, 0));
  const off = model.panels.filter((p) => work.steps.some((s) => s.stage === 'open' && s.panel?.id === p.id));
  const first = (id: string) => work.steps.findIndex((s) => s.stage === 'open' && s.panel?.id === id);
  const two = work.steps
    .filter((s) => s.hands === 2)
    .map((s) => ({ from: work.at.get(s.id)!, to: work.at.get(s.id)! + s.minutes, title: s.title }));
  const zones: (Bar & { zone: string })[] = [];
  for (const s of work.steps) {
    const [t, zone] = [work.at.get(s.id)!, zoneName(work.zone.get(s.id)!, model.kind)];
    const last = zones.at(-1);
    if (last?.zone === zone) last.to = t + s.minutes;
    else zones.push({ zone, from: t, to: t + s.minutes, title: zone });
  }
  return (
    <chakra.div display="grid" gridTemplateColumns="170px minmax(0, 1fr)" gap="5px 12px" alignItems="center">
      {off
        .sort((a, b) => first(a.id) - first(b.id))
        .map((p) => (
          <Row
            key={p.id}
            title={p.name}
            label={
              <>
                {p.name} {p.hands === 2 && <Users size={14} aria-label="two people" />}
              </>
            }
            bars={spans(
              work,
              (s) => s.stage === 'open' && s.panel?.id === p.id,
              (s) => s.stage === 'close' && s.panel?.id === p.id,
            )}
            total={total}
            tone="accent"
          />
        ))}
      {work.cost.powerOff > 0 && (
        <Row
          label="Power off"
          bars={spans(
            work,
            (s) => s.stage === 'make-safe' && s.id !== 'safe/off' && s.id !== 'safe/rest',
            (s) => s.stage === 'power-up',
          )}
          total={total}
          tone="ink"
        />
      )}
      {two.length > 0 && <Row label="Second pair of hands" bars={two} total={total} tone="tight" />}
      <chakra.span>You stand at</chakra.span>
      <chakra.div position="relative" height="24px">
        {zones.map((z) => (
          <chakra.span
            key={z.from}
            position="absolute"
            top={0}
            bottom={0}
            left={`${(z.from / total) * 100}%`}
            width={`${((z.to - z.from) / total) * 100}%`}
            borderLeftWidth="1px"
            borderColor="rule"
            pl="4px"
            fontSize="13px"
            lineHeight="24px"
            overflow="hidden"
            whiteSpace="nowrap"
            color="quiet"
            title={`${z.zone}, from ${Math.round(z.from)} to ${Math.round(z.to)} min`}
          >
            {(z.to - z.from) / total > 0.07 ? z.zone : ''}
          </chakra.span>
        ))}
      </chakra.div>
      <span />
      <chakra.div display="flex" justifyContent="space-between" fontFamily="mono" fontSize="13px" color="quiet">
        <span>0</span>
        <span>{Math.round(total / 2)} min</span>
        <span>{Math.round(total)} min</span>
      </chakra.div>
    </chakra.div>
  );
}
