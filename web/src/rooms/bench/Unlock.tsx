import { Button, PasswordInput } from '@mantine/core';
import { useEffect, useState } from 'react';
import { api, Refused, take } from '../../api/client';
import { useSend } from '../../ui/useSend';

const OPEN = '#open=';

const atPassphrase = (refused: Refused) =>
  refused.status === 401 ? 'That is not the passphrase of this bench.' : refused.at('passphrase');

/** Lets a browser in: by the key in the address that the start command printed, else by the passphrase. */
export function Unlock({ byPassphrase }: { byPassphrase: boolean }) {
  const [passphrase, setPassphrase] = useState('');
  const [trouble, setTrouble] = useState<string>();
  const [usedUp, setUsedUp] = useState(false);
  const open = useSend(() => take(api.POST('/api/v1/session', { body: { passphrase, key: '' } })), {
    onTrouble: (error) => {
      const said = error instanceof Refused ? atPassphrase(error) : undefined;
      setTrouble(said);
      return said !== undefined;
    },
  });
  const { mutate: openByKey } = useSend(
    (key: string) => take(api.POST('/api/v1/session', { body: { passphrase: '', key } })),
    {
      onTrouble: (error) => {
        const refused = error instanceof Refused && error.status === 401;
        setUsedUp(refused);
        return refused;
      },
    },
  );
  useEffect(() => {
    const key = window.location.hash.startsWith(OPEN) && window.location.hash.slice(OPEN.length);
    if (!key) return;
    window.history.replaceState(null, '', window.location.pathname); // it opens once, and is nothing to bookmark
    openByKey(key);
  }, [openByKey]);
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        open.mutate();
      }}
      style={{ maxWidth: 400, margin: '18vh auto 0', padding: 16, display: 'grid', gap: 16 }}
    >
      <img src="/icon.svg" alt="" width={64} height={64} />
      <h1>This bench is locked</h1>
      {usedUp && <p role="alert">This address was used already. Each lets one browser in.</p>}
      {byPassphrase && (
        <>
          <PasswordInput
            label="Passphrase"
            value={passphrase}
            onChange={(e) => setPassphrase(e.currentTarget.value)}
            error={trouble}
            autoFocus
          />
          <Button type="submit" loading={open.isPending}>
            Open the bench
          </Button>
        </>
      )}
      <p>
        At the bench’s own machine, open the address that was printed when it was started. <code>./penny open</code>{' '}
        prints another (for the demo, <code>./penny open --demo</code>).
      </p>
      <p className="quiet small">Tasters need no passphrase: they use the link or code the host gives them.</p>
    </form>
  );
}
