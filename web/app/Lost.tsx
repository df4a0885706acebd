import { chakra } from '@chakra-ui/react';
import { Link, useRouteError } from 'react-router';

/** Where nothing is, or a screen fell over: says so, and leads back. What was typed is still kept. */
export function Lost() {
  const error = useRouteError();
  return (
    <chakra.main p="32px" maxW="640px">
      <chakra.h1 fontSize="24px">{error ? 'This screen fell over' : 'There is nothing here'}</chakra.h1>
      <chakra.p my="12px" color="quiet">
        {error
          ? 'What you typed and recorded is kept. Load the page again; if it falls over again, tell the lead what you did last.'
          : 'The address is not one of Kadro’s.'}
      </chakra.p>
      <Link to="/floor">
        <chakra.span color="accent" textDecoration="underline">
          To the floor
        </chakra.span>
      </Link>
    </chakra.main>
  );
}
