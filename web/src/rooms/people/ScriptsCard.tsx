import { Button, Checkbox, CopyButton, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Confirm } from '../../ui/Confirm';
import { shownAtField, useForm } from '../../ui/fields';
import { dayAndTime } from '../../ui/numbers';
import { useSend } from '../../ui/useSend';
import { makeToken, revokeToken, tokensQuery } from '../bench/queries';
import classes from './People.module.css';

/** Tokens by which a notebook reads brews, or posts readings. */
export function ScriptsCard() {
  const { data } = useQuery(tokensQuery);
  const form = useForm({ name: '' });
  const [mayWrite, setMayWrite] = useState(false);
  const [made, setMade] = useState('');
  const make = useSend(() => makeToken({ name: form.values.name, may_write: mayWrite }), {
    onDone: (done) => {
      setMade(done.token);
      form.set('name', '');
      setMayWrite(false);
    },
    onTrouble: shownAtField(form.setRefused),
  });
  const revoke = useSend((id: string) => revokeToken(id));
  return (
    <section className="card" aria-labelledby="scripts">
      <h2 id="scripts">Scripts</h2>
      <p className="quiet small">
        A script signs in with a token instead of the passphrase. You can revoke it at any time.
      </p>
      <form
        className={classes.token}
        onSubmit={(e) => {
          e.preventDefault();
          make.mutate();
        }}
      >
        <TextInput
          label="Token name"
          placeholder="my notebook"
          maxLength={80}
          value={form.values.name}
          onChange={(e) => form.set('name', e.currentTarget.value)}
          error={form.refused?.at('name')}
        />
        <Checkbox label="can also write" checked={mayWrite} onChange={(e) => setMayWrite(e.currentTarget.checked)} />
        <Button type="submit" variant="default" loading={make.isPending} disabled={!form.values.name.trim()}>
          Create token
        </Button>
      </form>
      {made && (
        <p role="status" className={classes.made}>
          <code>{made}</code>
          <CopyButton value={made}>
            {({ copied, copy }) => (
              <Button size="compact-sm" variant="default" onClick={copy}>
                {copied ? 'Copied' : 'Copy'}
              </Button>
            )}
          </CopyButton>
          <span className="quiet small">Shown only once: copy it now.</span>
        </p>
      )}
      {(data?.tokens.length ?? 0) > 0 && (
        <ul className={classes.devices}>
          {data!.tokens.map((t) => (
            <li key={t.id}>
              <span className={classes.device}>
                <b>{t.name}</b>
                <span className="quiet small">
                  {t.may_write ? 'reads and writes' : 'reads'}, made {dayAndTime(t.created_at)},{' '}
                  {t.used_at ? `used ${dayAndTime(t.used_at)}` : 'not used yet'}
                </span>
              </span>
              <Confirm
                question={`Revoke the token for ${t.name}?`}
                detail="Scripts that use it are refused from now on. What they wrote stays."
                verb="Revoke it"
                onYes={() => revoke.mutate(t.id)}
              >
                {(ask) => (
                  <Button variant="default" size="compact-sm" flex="none" onClick={ask}>
                    Revoke
                  </Button>
                )}
              </Confirm>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
