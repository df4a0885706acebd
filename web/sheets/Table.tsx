import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';

/** A plain table of a sheet's list, thin rules, figures to the right where `num` says so. */
export function Table({ heads, rows, num = [] }: { heads: string[]; rows: ReactNode[][]; num?: number[] }) {
  return (
    <chakra.div overflowX="auto">
      <chakra.table width="100%" borderCollapse="collapse" fontSize="15px">
        <thead>
          <tr>
            {heads.map((h, i) => (
              <chakra.th
                key={h}
                textAlign={num.includes(i) ? 'right' : 'left'}
                fontWeight={600}
                color="quiet"
                py="5px"
                pr="14px"
                borderBottomWidth="1px"
                borderColor="ink"
                whiteSpace="nowrap"
              >
                {h}
              </chakra.th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((r, k) => (
            <tr key={k}>
              {r.map((c, i) => (
                <chakra.td
                  key={i}
                  textAlign={num.includes(i) ? 'right' : 'left'}
                  fontFamily={num.includes(i) ? 'mono' : undefined}
                  py="5px"
                  pr="14px"
                  borderBottomWidth="1px"
                  borderColor="rule"
                  verticalAlign="top"
                >
                  {c}
                </chakra.td>
              ))}
            </tr>
          ))}
        </tbody>
      </chakra.table>
    </chakra.div>
  );
}
