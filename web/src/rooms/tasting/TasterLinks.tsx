import { Button, CopyButton, Menu, Modal, Select } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { useSend } from '../../ui/useSend';
import { LetIn } from '../people/LetIn';
import { peopleQuery } from '../people/queries';
import { addTaster, type Flight, renewLink, setLeft, withdrawLink } from './queries';
import { isOnThisMachine } from './reach';
import classes from './Taste.module.css';

/** Who tastes, how far each is, and the link or code that opens their sheet. */
export function TasterLinks({ flight }: { flight: Flight }) {
  const [shownId, setShown] = useState<string | null>(null);
  const shown = flight.sheets.find((s) => s.id === shownId);
  const renew = useSend(renewLink);
  const withdraw = useSend(withdrawLink);
  const leave = useSend(setLeft);
  const isOpen = flight.status === 'open';
  return (
    <section className="card" aria-labelledby="tasters">
      <h2 id="tasters">Tasters</h2>
      <ul className={classes.tasters}>
        {flight.sheets.map((sheet) => (
          <li key={sheet.id}>
            <span>
              <b>{sheet.name}</b>
              <span className="num small">
                {sheet.scored} of {sheet.of}
                {sheet.left_at ? ' · left' : sheet.late ? ' · joined late' : ''}
              </span>
              {flight.options.own_sets && (
                <span className={`num small ${classes.ownSet}`}>{sheet.order.join(' · ')}</span>
              )}
            </span>
            {isOpen && (
              <Menu position="bottom-end">
                <Button.Group>
                  <Button variant="default" disabled={!sheet.link} onClick={() => setShown(sheet.id)}>
                    {sheet.link ? 'Link and code' : 'Withdrawn'}
                  </Button>
                  <Menu.Target>
                    <Button variant="default" px={10} aria-label={`More for ${sheet.name}`}>
                      ⋯
                    </Button>
                  </Menu.Target>
                </Button.Group>
                <Menu.Dropdown>
                  <Menu.Item onClick={() => renew.mutate(sheet.id)}>Make a new link; the old one stops</Menu.Item>
                  {sheet.link && <Menu.Item onClick={() => withdraw.mutate(sheet.id)}>Withdraw the link</Menu.Item>}
                  {sheet.link && (
                    <Menu.Item component="a" href={sheet.link} target="_blank" rel="noreferrer">
                      Enter from paper
                    </Menu.Item>
                  )}
                  <Menu.Item onClick={() => leave.mutate({ id: sheet.id, left: !sheet.left_at })}>
                    {sheet.left_at ? `${sheet.name} is back` : `${sheet.name} has left`}
                  </Menu.Item>
                </Menu.Dropdown>
              </Menu>
            )}
          </li>
        ))}
      </ul>
      {isOpen && (
        <Button component={Link} to={`/flights/${flight.id}/links`} variant="subtle" size="compact-sm">
          All links on one page
        </Button>
      )}
      {isOpen && <LateJoiner flight={flight} />}
      {shown?.link && (
        <Modal opened onClose={() => setShown(null)} title={`${shown.name}'s sheet`} size="sm">
          <div className={classes.qr}>
            {isOnThisMachine(shown.link) ? (
              <OnlyHere flightId={flight.id} />
            ) : (
              <>
                <img
                  src={`/api/v1/sheets/${shown.id}/qr.svg`}
                  alt={`QR code of ${shown.name}'s link`}
                  width={240}
                  height={240}
                />
                <code className={classes.url}>{shown.link}</code>
              </>
            )}
            <div className={classes.buttons}>
              {!isOnThisMachine(shown.link) && (
                <CopyButton value={shown.link}>
                  {({ copied, copy }) => (
                    <Button variant="default" onClick={copy}>
                      {copied ? 'Copied' : 'Copy the link'}
                    </Button>
                  )}
                </CopyButton>
              )}
              <Button component="a" href={shown.link} target="_blank" rel="noreferrer">
                Open it here
              </Button>
            </div>
            <p className="quiet small">The link opens this one sheet and nothing else. Hand it to {shown.name} only.</p>
          </div>
        </Modal>
      )}
    </section>
  );
}

/** A code that no phone can follow is not shown: what lets phones in is, and the ways without. */
function OnlyHere({ flightId }: { flightId: string }) {
  return (
    <LetIn
      otherwise={
        <>
          Or <Link to={`/flights/${flightId}/tablet`}>pass this screen round</Link>, or{' '}
          <Link to={`/flights/${flightId}/paper`}>print the sheets</Link>.
        </>
      }
    />
  );
}

function LateJoiner({ flight }: { flight: Flight }) {
  const { data: people = [] } = useQuery(peopleQuery);
  const add = useSend((personId: string) => addTaster(flight.id, personId));
  const free = people.filter((p) => !flight.sheets.some((s) => s.person_id === p.id));
  if (!free.length) return null;
  return (
    <Select
      aria-label="Seat a late joiner"
      placeholder="Seat a late joiner"
      value={null}
      onChange={(id) => id && add.mutate(id)}
      data={free.map((p) => ({ value: p.id, label: p.name }))}
    />
  );
}
