import { Button } from '@mantine/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { type ReactNode, useEffect, useState } from 'react';
import { tellToNote } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import classes from './People.module.css';
import { openToNetwork, reachQuery } from './queries';

const LOOK_AGAIN_MS = 500;

/** Where no phone can reach the bench: the one press that lets them in, at the bench's own machine, and what can be done without. Nothing once they can. */
export function LetIn({ otherwise }: { otherwise?: ReactNode }) {
  const client = useQueryClient();
  const [opening, setOpening] = useState(false);
  const { data: reach } = useQuery({ ...reachQuery, refetchInterval: opening ? LOOK_AGAIN_MS : false, retry: true });
  const open = useSend(openToNetwork, {
    onDone: ({ passphrase }) => {
      setOpening(true);
      if (passphrase)
        tellToNote(
          `Other computers that open this bench are asked for “${passphrase}”. Note it now: it is shown this once.`,
        );
    },
  });
  const isOpen = reach?.on_network === true;
  useEffect(() => {
    if (isOpen && opening) client.invalidateQueries(); // links now carry an address that phones can reach
  }, [isOpen, opening, client]);
  if (!reach || isOpen) return null;
  return (
    <div role="note" className={classes.letIn}>
      <p>Phones cannot reach this bench.</p>
      {reach.may_open ? (
        <Button variant="default" loading={open.isPending || opening} onClick={() => open.mutate()}>
          Let phones in
        </Button>
      ) : (
        <p className="small">
          At its own machine, start it with <code>./penny serve --phones</code>.
        </p>
      )}
      {otherwise && <p className="small">{otherwise}</p>}
    </div>
  );
}
