import { Button } from '@mantine/core';
import { Link, useRouteError } from 'react-router';

/** Shown for an address that leads nowhere, and when a page breaks. */
export function Lost() {
  const error = useRouteError();
  if (error) console.error(error);
  return (
    <div style={{ padding: 32, display: 'grid', gap: 12, justifyItems: 'start' }}>
      <h1>{error ? 'This page broke' : 'There is nothing here'}</h1>
      <p className="quiet">
        {error
          ? 'What was saved is safe. Reload, or go back to the bench.'
          : 'The address may be mistyped, or what was here was deleted.'}
      </p>
      <Button component={Link} to="/">
        To the bench
      </Button>
    </div>
  );
}
