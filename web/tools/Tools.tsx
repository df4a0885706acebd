import { chakra } from '@chakra-ui/react';
import { Link, useParams } from 'react-router';
import { CALCULATIONS, findCalculation } from '#core/calc/registry';
import { CalcPage } from './CalcPage';

/** The registered calculations, each a page that stands alone. */
export function Tools() {
  const { name } = useParams();
  const calc = name ? findCalculation(name) : CALCULATIONS[0];
  return (
    <chakra.main height="100%" display="grid" gridTemplateColumns="280px minmax(0, 1fr)">
      <chakra.nav aria-label="Tools" overflowY="auto" borderRightWidth="1px" borderColor="rule" p="16px">
        <chakra.h1 fontSize="22px" mb="10px">
          Tools
        </chakra.h1>
        {CALCULATIONS.map((c) => (
          <Link key={c.name} to={`/tools/${c.name}`} aria-current={c === calc ? 'page' : undefined}>
            <chakra.span
              display="block"
              py="9px"
              px="8px"
              borderRadius="kadro"
              bg={c === calc ? 'accentWash' : undefined}
              _hover={{ bg: 'raised' }}
            >
              {c.title}
              <chakra.span display="block" fontFamily="mono" fontSize="13px" color="quiet">
                {c.name}
              </chakra.span>
            </chakra.span>
          </Link>
        ))}
      </chakra.nav>
      <chakra.div overflowY="auto" p="20px">
        {calc ? <CalcPage key={calc.name} calc={calc} /> : <p>There is no calculation “{name}”.</p>}
      </chakra.div>
    </chakra.main>
  );
}
