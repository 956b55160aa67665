import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Confirm } from '../../ui/Confirm';
import { dayAndTime } from '../../ui/numbers';
import { useSend } from '../../ui/useSend';
import { endSession, sessionsQuery } from '../bench/queries';
import { deviceWords } from './devices';
import classes from './People.module.css';

/** Devices that gave the passphrase, each of which can be locked again. Nothing where none ever did. */
export function DevicesCard() {
  const { data } = useQuery(sessionsQuery);
  const end = useSend((id: string) => endSession(id));
  if (!data?.sessions.length) return null;
  return (
    <div className="card">
      <h2>Devices let in</h2>
      <ul className={classes.devices}>
        {data.sessions.map((s) => (
          <li key={s.id}>
            <span className={classes.device}>
              <b>{deviceWords(s.agent)}</b>
              {s.this_device && ' (this one)'}
              <span className="quiet small">
                {s.address}, seen {dayAndTime(s.seen_at)}, until {dayAndTime(s.ends_at)}
              </span>
            </span>
            <Confirm
              question={`Lock ${deviceWords(s.agent)}?`}
              detail="It must give the passphrase again. What it wrote stays."
              verb="Lock it"
              onYes={() => end.mutate(s.id)}
            >
              {(ask) => (
                <Button variant="default" size="compact-sm" flex="none" onClick={ask}>
                  Lock
                </Button>
              )}
            </Confirm>
          </li>
        ))}
      </ul>
    </div>
  );
}
