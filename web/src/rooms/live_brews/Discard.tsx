import type { ReactNode } from 'react';
import { Confirm } from '../../ui/Confirm';

type DiscardProps = { onYes: () => void; children: (ask: () => void) => ReactNode };

/** A brew is given up only when that is meant: it never stands beside a key that is pressed in haste. */
export function Discard({ onYes, children }: DiscardProps) {
  return (
    <Confirm
      question="Discard this brew?"
      detail="Nothing of it is logged. It can be undone."
      verb="Discard it"
      onYes={onYes}
    >
      {children}
    </Confirm>
  );
}
