import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { Store } from 'lucide-react';
import type { ShopOfMine } from '#model/person';
import { queries } from './api';
import { SHOP_ID, shopAddress } from './place';

const Way = chakra('a', {
  base: {
    display: 'flex',
    alignItems: 'center',
    gap: '10px',
    minHeight: '48px',
    px: '12px',
    borderWidth: '1px',
    borderColor: 'rule',
    borderRadius: 'kadro',
    textDecoration: 'none',
    color: 'ink',
    _hover: { borderColor: 'accent' },
  },
});

/** Other shops where who is signed in works: a page of its own each, since a page is of one shop. Nothing for who works in one. */
export function OtherShops() {
  const mine = useQuery({ ...queries.shops, retry: false }).data ?? [];
  const here = (s: ShopOfMine): boolean => (SHOP_ID === null ? s.first : s.id === SHOP_ID);
  const others = mine.filter((s) => !here(s));
  if (!others.length) return null;
  return (
    <chakra.nav aria-label="Your other shops" display="grid" gap="8px" my="12px" maxW="440px">
      <chakra.p fontWeight={600}>{mine.some(here) ? 'Your other shops' : 'You are signed in, and work in'}</chakra.p>
      {others.map((s) => (
        <Way key={s.id} href={shopAddress(s.id, s.first)}>
          <Store size={20} aria-hidden />
          <span>{s.name}</span>
          <chakra.span color="quiet" ml="auto">
            {s.role}
          </chakra.span>
        </Way>
      ))}
    </chakra.nav>
  );
}
