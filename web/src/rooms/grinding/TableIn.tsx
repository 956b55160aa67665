import { Button, Select, Textarea } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { Refused } from '../../api/client';
import { TABLE_KINDS } from '../../api/vocabulary';
import { optionsOf } from '../../api/words';
import { ChooseFile } from '../../ui/ChooseFile';
import { shownAtField, useForm } from '../../ui/fields';
import { tellDone } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import type { Kit } from '../kit/queries';
import classes from './Grind.module.css';
import { Says } from './LiveSieve';
import { addTable, type GrindRoom, type TableBody, tableQuery } from './queries';
import { settingOf, WhereGround } from './WhereGround';

type Kind = NonNullable<TableBody['kind']>;

/** A table of diameters and shares, as laser and image instruments export it: read, shown, then kept as a sample. */
export function TableIn({ room, kit }: { room: GrindRoom; kit: Kit }) {
  const navigate = useNavigate();
  const form = useForm<Record<string, string>>(
    { dial_id: room.dials[0]?.id ?? '', setting: '', coffee_id: '', text: '', kind: '' },
    'grind-table',
  );
  const kind = (form.values.kind || null) as Kind | null;
  const [steady] = useDebouncedValue(form.values.text ?? '', 200);
  const read = useQuery(tableQuery(steady, kind));
  const save = useSend(
    async () =>
      addTable({
        dial_id: form.values.dial_id!,
        setting: settingOf(form.values),
        coffee_id: form.values.coffee_id || null,
        sampled_on: null,
        note: '',
        text: form.values.text ?? '',
        kind,
      }),
    {
      onDone: (made) => {
        form.forget();
        tellDone('The table is kept as a sample.');
        navigate(`/grind?first=${made.id}`);
      },
      onTrouble: shownAtField(form.setRefused),
    },
  );
  const fault = read.error instanceof Refused ? read.error.message : undefined;
  return (
    <form
      className={classes.sampling}
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
    >
      <section className={`card ${classes.where}`} aria-label="Where it was ground">
        <WhereGround form={form} room={room} kit={kit} />
      </section>
      <section className={`card ${classes.weighing}`} aria-label="The table">
        <ChooseFile accept=".csv,.tsv,.txt,text/*" onFile={async (file) => form.set('text', await file.text())}>
          {(props) => (
            <Button {...props} variant="default" style={{ justifySelf: 'start' }}>
              Choose a file, CSV or text
            </Button>
          )}
        </ChooseFile>
        <Textarea
          label="Or paste it"
          description="A diameter in µm and a share by volume or mass on each line."
          autosize
          minRows={9}
          maxRows={18}
          styles={{ input: { fontFamily: 'var(--mono)' } }}
          placeholder={'diameter µm;finer %\n300;8.5\n500;24.6\n800;70.2\n1100;100'}
          value={form.values.text ?? ''}
          onChange={(e) => form.set('text', e.currentTarget.value)}
          error={form.refused?.at('text') ?? fault}
        />
        <Select
          label="Its shares are"
          clearable
          placeholder={read.data ? `${read.data.kind_label}, by the look of it` : 'as the table shows itself'}
          data={optionsOf(TABLE_KINDS)}
          value={form.values.kind || null}
          onChange={(v) => form.set('kind', v ?? '')}
        />
        <Button type="submit" size="md" loading={save.isPending} disabled={!read.data}>
          Keep the sample
        </Button>
      </section>
      <section className={`card ${classes.live}`} aria-label="What it says" aria-live="polite">
        <h2>What it says</h2>
        {read.data ? (
          <>
            <p>
              {read.data.rows} sizes, {read.data.kind_label}
              {read.data.skipped.length > 0 && `; lines ${read.data.skipped.join(', ')} left out`}.
            </p>
            <Says found={read.data.sieved} />
          </>
        ) : (
          <p className="quiet">Nothing read yet.</p>
        )}
      </section>
    </form>
  );
}
