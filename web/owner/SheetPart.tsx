import { chakra } from '@chakra-ui/react';
import type { OwnersView } from '#core/order/owners-view';
import { Card } from './parts';

type Sheet = NonNullable<OwnersView['sheet']>;

/** What the owner takes along: controls, fuses and where they are, cautions, what was measured. */
export function SheetPart({ sheet: s }: { sheet: Sheet }) {
  const { box, shapes, feeds, fuses, numbers } = s.map;
  const r = box.w / 42;
  return (
    <>
      <Card label="How to use it">
        <chakra.h2 fontSize="19px">How to use it</chakra.h2>
        {s.forTheOwner.map((t) => (
          <chakra.p key={t} mt="6px">
            {t}
          </chakra.p>
        ))}
        {!s.forTheOwner.length && <p>As before.</p>}
      </Card>
      {fuses.length > 0 && (
        <Card label="Fuses">
          <chakra.h2 fontSize="19px">Fuses, and where they are fed from</chakra.h2>
          <chakra.svg
            viewBox={`${box.x} ${box.y} ${box.w} ${box.h}`}
            width="100%"
            role="img"
            aria-label="Your unit from its side"
            my="8px"
            color="ink"
          >
            {shapes.map((x, i) => (
              <path
                key={i}
                d={x.d}
                fill="none"
                stroke="currentColor"
                strokeWidth={x.role === 'body' || x.role === 'frame' ? box.w / 300 : box.w / 600}
                opacity={x.role === 'ghost' || x.role === 'detail' ? 0.5 : 1}
              />
            ))}
            {feeds.map(
              (f) =>
                f.at && (
                  <g key={f.n}>
                    <chakra.circle cx={f.at[0]} cy={f.at[1]} r={r} fill="accent" />
                    <chakra.text x={f.at[0]} y={f.at[1] + r * 0.4} fontSize={`${r * 1.2}px`} textAnchor="middle" fill="onAccent">
                      {f.n}
                    </chakra.text>
                  </g>
                ),
            )}
          </chakra.svg>
          {feeds.map((f) => (
            <chakra.div key={f.n} mt="6px">
              <b>
                {f.n} {f.name}
              </b>
              {fuses
                .filter((x) => x.n === f.n)
                .map((x) => (
                  <chakra.p key={x.circuit} fontSize="15px">
                    {x.circuit}: {x.fuse}
                  </chakra.p>
                ))}
            </chakra.div>
          ))}
        </Card>
      )}
      {numbers && (
        <Card label="Numbers">
          <chakra.h2 fontSize="19px">Serial and lot numbers</chakra.h2>
          <chakra.p mt="6px">{numbers}</chakra.p>
        </Card>
      )}
      <Card label="What to expect">
        <chakra.h2 fontSize="19px">What to expect</chakra.h2>
        {s.expect.map((t) => (
          <chakra.p key={t} mt="6px">
            {t}.
          </chakra.p>
        ))}
        {s.open.length > 0 && (
          <chakra.details>
            <chakra.summary cursor="pointer" color="accent" minH="44px" display="flex" alignItems="center">
              {s.open.length === 1 ? 'One point is open' : `${s.open.length} points are open`}
            </chakra.summary>
            {s.open.map((t) => (
              <chakra.p key={t} fontSize="15px" mt="4px">
                {t}
              </chakra.p>
            ))}
          </chakra.details>
        )}
      </Card>
      <Card label="Cautions">
        <chakra.h2 fontSize="19px">Mind this</chakra.h2>
        {s.cautions.map((t) => (
          <chakra.p key={t} mt="6px">
            {t}
          </chakra.p>
        ))}
      </Card>
      {s.measured.length > 0 && (
        <Card label="Measured">
          <chakra.details>
            <chakra.summary cursor="pointer" fontSize="19px" fontWeight={700} minH="44px">
              What was measured
            </chakra.summary>
            {s.measured.map((m, i) => (
              <chakra.p key={i} display="flex" gap="10px" fontSize="15px" borderTopWidth="1px" borderColor="rule" py="4px">
                <chakra.span flex="1">{m.label}</chakra.span>
                <chakra.span fontFamily="mono">{m.value}</chakra.span>
              </chakra.p>
            ))}
          </chakra.details>
        </Card>
      )}
      {s.additions.map((x) => (
        <Card key={x.at} label="Added since">
          <b>{x.at}</b> {x.text}
        </Card>
      ))}
    </>
  );
}
