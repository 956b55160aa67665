import { Button, PasswordInput } from '@mantine/core';
import { useState } from 'react';
import { api, Refused, take } from '../../api/client';
import { useSend } from '../../ui/useSend';

const atPassphrase = (refused: Refused) =>
  refused.status === 401 ? 'That is not the passphrase of this bench.' : refused.at('passphrase');

/** The door of a bench that is open to the network. */
export function Unlock() {
  const [passphrase, setPassphrase] = useState('');
  const [trouble, setTrouble] = useState<string>();
  const open = useSend(() => take(api.POST('/api/v1/session', { body: { passphrase } })), {
    onTrouble: (error) => {
      const said = error instanceof Refused ? atPassphrase(error) : undefined;
      setTrouble(said);
      return said !== undefined;
    },
  });
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        open.mutate();
      }}
      style={{ maxWidth: 360, margin: '18vh auto 0', padding: 16, display: 'grid', gap: 16 }}
    >
      <img src="/icon.svg" alt="" width={64} height={64} />
      <h1>This bench is locked</h1>
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
      <p className="quiet small">Tasters need no passphrase: they use the link or code the host gives them.</p>
    </form>
  );
}
