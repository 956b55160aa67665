import { Button, CopyButton, Modal } from '@mantine/core';
import { useState } from 'react';
import { Confirm } from '../../ui/Confirm';
import { timeOf } from '../../ui/numbers';
import { useSend } from '../../ui/useSend';
import { PourList } from './PourList';
import { breakSeal, type Flight, hostTastes, openPourSheet, type PourSheet } from './queries';
import classes from './Taste.module.css';

/** A runner's flight: the link to hand over, the seal to check. */
export function SealCard({ flight }: { flight: Flight }) {
  const seal = flight.seal!;
  const [shown, setShown] = useState(false);
  const [poured, setPoured] = useState<PourSheet | null>(null);
  const breaking = useSend(() => breakSeal(flight.id));
  const opening = useSend(() => openPourSheet(flight.id), { onDone: setPoured });
  const tasting = useSend(() => hostTastes(flight));
  const open = flight.status === 'open' && !seal.broken_at;
  return (
    <section className="card" aria-labelledby="seal">
      <h2 id="seal">{seal.broken_at ? 'The seal is broken' : seal.key_text ? 'The seal is opened' : 'Sealed'}</h2>
      <p className="small">
        {seal.broken_at
          ? `Since ${timeOf(seal.broken_at)} the key is in sight; this flight is graded sighted.`
          : seal.opened_at
            ? `The runner opened the pour sheet at ${timeOf(seal.opened_at)}. It opens on no other device.`
            : flight.host_tastes
              ? 'You are tasting too: let the runner’s camera read the code. It opens once, on one device, and not on this one.'
              : 'Hand the link to the runner. It opens once, on one device.'}
      </p>
      <p className={classes.commitment}>
        <code>{seal.commitment}</code>
      </p>
      {seal.key_text && (
        <details>
          <summary>{seal.holds ? 'The seal holds: check it yourself' : 'The seal does not hold'}</summary>
          <p className="quiet small">The hash above, shown since before tasting, is SHA-256 of this text:</p>
          <code className={classes.url}>{seal.key_text}</code>
        </details>
      )}
      {open && (
        <div className={classes.buttons}>
          {seal.waits && (
            <Button size="md" onClick={() => setShown(true)}>
              {seal.link ? 'Link for the runner' : 'Code for the runner'}
            </Button>
          )}
          {!flight.host_tastes && (
            <>
              <Confirm
                question="Open the pour sheet here?"
                detail="You will know which cup is which, so you cannot taste in this flight. It is recorded, and the evidence says so."
                verb="Open it"
                onYes={() => opening.mutate()}
              >
                {(ask) => (
                  <Button variant="default" onClick={seal.seen_by_host_at ? () => opening.mutate() : ask}>
                    Pour it myself
                  </Button>
                )}
              </Confirm>
              {!seal.seen_by_host_at && (
                <Confirm
                  question="Are you tasting too?"
                  detail="Then you are blind in this flight until the flip. It cannot be taken back."
                  verb="I am tasting too"
                  onYes={() => tasting.mutate()}
                >
                  {(ask) => (
                    <Button variant="default" onClick={ask}>
                      I am tasting too
                    </Button>
                  )}
                </Confirm>
              )}
            </>
          )}
          <Confirm
            question="Break the seal?"
            detail="Only when the runner's link is lost. The key comes into sight, and this flight is graded sighted for good."
            verb="Break the seal"
            onYes={() => breaking.mutate()}
          >
            {(ask) => (
              <Button variant="subtle" color="red" onClick={ask}>
                Break the seal
              </Button>
            )}
          </Confirm>
        </div>
      )}
      {shown && seal.waits && (
        <Modal opened onClose={() => setShown(false)} title="The runner's pour sheet" size="sm">
          <div className={classes.qr}>
            <img
              src={`/api/v1/flights/${flight.id}/runner-qr.svg`}
              alt="QR code of the runner's link"
              width={240}
              height={240}
            />
            {seal.link ? (
              <>
                <code className={classes.url}>{seal.link}</code>
                <CopyButton value={seal.link}>
                  {({ copied, copy }) => <Button onClick={copy}>{copied ? 'Copied' : 'Copy the link'}</Button>}
                </CopyButton>
              </>
            ) : (
              <Button component="a" href={`/api/v1/flights/${flight.id}/runner-qr.svg`} target="_blank">
                Print it, to lay face down
              </Button>
            )}
            <p className="quiet small">
              The first device that opens it is the only one that ever will. Whoever tastes must not open it.
            </p>
          </div>
        </Modal>
      )}
      {poured && (
        <Modal opened onClose={() => setPoured(null)} title="Pour sheet" size="lg">
          <PourList sheet={poured} />
        </Modal>
      )}
    </section>
  );
}
