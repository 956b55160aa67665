// A simulated page around one component: the theme, a query client, an address, and a bench that answers what a test says.
import { MantineProvider } from '@mantine/core';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render } from '@testing-library/react';
import type { ReactNode } from 'react';
import { MemoryRouter } from 'react-router';
import { vi } from 'vitest';
import { theme } from '../ui/theme/theme';

export type Sent = { method: string; path: string; body: unknown };

/** Answer calls by `METHOD /path` (without the API's prefix and query); returns what was sent, in order. */
export function bench(answers: Record<string, unknown>): Sent[] {
  const sent: Sent[] = [];
  vi.stubGlobal('fetch', async (asked: Request) => {
    const path = new URL(asked.url).pathname.replace('/api/v1', '');
    const text = await asked.clone().text();
    sent.push({ method: asked.method, path, body: text ? JSON.parse(text) : null });
    const answer = answers[`${asked.method} ${path}`];
    if (answer === undefined) throw new Error(`the test does not say how to answer ${asked.method} ${path}`);
    return new Response(JSON.stringify(answer), { status: 200, headers: { 'Content-Type': 'application/json' } });
  });
  return sent;
}

export function show(part: ReactNode, at = '/') {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  return render(
    <QueryClientProvider client={client}>
      <MantineProvider theme={theme} env="test">
        <MemoryRouter initialEntries={[at]}>{part}</MemoryRouter>
      </MantineProvider>
    </QueryClientProvider>,
  );
}
