import { chakra } from '@chakra-ui/react';
import { Link, useParams } from 'react-router';
import { CALCULATIONS, findCalculation } from '#core/calc/registry';
import { CalcPage } from './CalcPage';
import { HarnessPage } from './HarnessPage';

/** The registered calculations, each a page that stands alone. */
export function Tools() {
  const { name } = useParams();
  const calc = name === 'harness' ? undefined : name ? findCalculation(name) : CALCULATIONS[0];
  return (
    <chakra.main height="100%" display="grid" gridTemplateColumns="280px minmax(0, 1fr)">
      <chakra.nav aria-label="Tools" overflowY="auto" borderRightWidth="1px" borderColor="rule" p="16px">
        <chakra.h1 fontSize="22px" mb="10px">
          Tools
        </chakra.h1>
        {[...CALCULATIONS, { name: 'harness', title: 'Open a harness' }].map((c) => {
          const on = c.name === (calc?.name ?? name);
          return (
            <Link key={c.name} to={`/tools/${c.name}`} aria-current={on ? 'page' : undefined}>
              <chakra.span
                display="block"
                py="9px"
                px="8px"
                borderRadius="kadro"
                bg={on ? 'accentWash' : undefined}
                _hover={{ bg: 'raised' }}
              >
                {c.title}
              </chakra.span>
            </Link>
          );
        })}
      </chakra.nav>
      <chakra.div overflowY="auto" p="20px">
        {name === 'harness' ? <HarnessPage /> : calc ? <CalcPage key={calc.name} calc={calc} /> : <p>There is no calculation “{name}”.</p>}
      </chakra.div>
    </chakra.main>
  );
}
