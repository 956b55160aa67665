import { Button } from '@mantine/core';
import { type ReactNode, useEffect, useRef } from 'react';
import { Link } from 'react-router';
import { atADesk } from './desk';

/** The one thing to do next. takesFocus: the hands come to it, when it appears after something was done. */
export function NextLink({ to, takesFocus, children }: { to: string; takesFocus: boolean; children: ReactNode }) {
  const ref = useRef<HTMLAnchorElement>(null);
  useEffect(() => {
    if (takesFocus && atADesk()) ref.current?.focus();
  }, [takesFocus]);
  return (
    <Button ref={ref} component={Link} to={to} size="md">
      {children}
    </Button>
  );
}
