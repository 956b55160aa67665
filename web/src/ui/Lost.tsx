import { Button } from '@mantine/core';
import { useEffect } from 'react';
import { Link, useRouteError } from 'react-router';
import { isAway, untilBack } from './away';

/** Shown for an address that leads nowhere, when a page breaks, and while the bench does not answer; then it comes back by itself. */
export function Lost() {
  const error = useRouteError();
  const away = isAway(error);
  useEffect(() => {
    if (error && !away) console.error(error);
    return away ? untilBack(() => window.location.reload()) : undefined;
  }, [error, away]);
  const [title, text] = away
    ? [
        'The bench does not answer',
        'What was saved is safe, and what you typed is kept on this device. This page comes back by itself.',
      ]
    : error
      ? [
          'This page broke',
          'What was saved is safe, and what you typed is kept on this device. Reload, or go back to the bench.',
        ]
      : ['There is nothing here', 'The address may be mistyped, or what was here was deleted.'];
  return (
    <main style={{ padding: 32, display: 'grid', gap: 12, justifyItems: 'start' }} role={away ? 'status' : undefined}>
      <h1>{title}</h1>
      <p className="quiet">{text}</p>
      {!away && (
        <Button component={Link} to="/">
          To the bench
        </Button>
      )}
    </main>
  );
}
