import '@fontsource/atkinson-hyperlegible-next/400.css';
import '@fontsource/atkinson-hyperlegible-next/600.css';
import '@fontsource/atkinson-hyperlegible-next/700.css';
import '@fontsource/spline-sans-mono/400.css';
import '@fontsource/spline-sans-mono/600.css';
import { ChakraProvider } from '@chakra-ui/react';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { RouterProvider } from 'react-router';
import { ApiError } from './api';
import { OutboxContext } from './context';
import { Outbox } from '../device/outbox';
import { program } from './offline';
import { placeInShop } from './place';
import { router } from './routes';
import { currentScheme, putScheme } from './scheme';
import { system } from './theme';

putScheme(currentScheme(), false);
const client = new QueryClient({
  defaultOptions: {
    queries: {
      // a network or database that is away for a moment is waited for; a refusal is not asked again
      retry: (count, e) => e instanceof ApiError && e.passing && count < 20,
      retryDelay: (n) => Math.min(4000, 400 * 1.6 ** n),
      networkMode: 'always',
      staleTime: 2000,
    },
  },
});
const outbox = new Outbox(client);
// the owner of a unit looks at one page now and then: their telephone keeps no program
if (!placeInShop().startsWith('/u/')) program.keep();

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <ChakraProvider value={system}>
      <QueryClientProvider client={client}>
        <OutboxContext value={outbox}>
          <RouterProvider router={router} />
        </OutboxContext>
      </QueryClientProvider>
    </ChakraProvider>
  </StrictMode>,
);
