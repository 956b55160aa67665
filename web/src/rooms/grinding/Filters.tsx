import { Button, Modal, SegmentedControl, Select, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { PUSHES } from '../../api/vocabulary';
import { localRefusal, numberOf, shownAtField, useForm } from '../../ui/fields';
import { fixed, plural } from '../../ui/numbers';
import { useTellDeleted } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import { kitQuery } from '../kit/queries';
import { FivePoints } from './FivePoints';
import { FormNumber } from './FormNumber';
import classes from './Grind.module.css';
import { addFilterTest, type FilterTest, type FilterTestBody, type GrindRoom, removeFilterTest } from './queries';

/** Water timed through filters: how strongly each holds it back, against the first one tested. */
export function Filters({ room }: { room: GrindRoom }) {
  const [open, setOpen] = useState(false);
  const tellDeleted = useTellDeleted();
  const remove = useSend((id: string) => removeFilterTest(id), {
    onDone: (done) => tellDeleted('The test', done.change_id),
  });
  const tested = [...new Map(room.filter_tests.map((t) => [t.filter_id, t.filter]))];
  return (
    <section className="card" aria-labelledby="filters">
      <div className={classes.cardHead}>
        <h2 id="filters">Filters</h2>
        <Button variant="default" onClick={() => setOpen(true)}>
          Test a filter
        </Button>
      </div>
      {!tested.length && <p className="quiet">Time the same water through two filters, under one head or one force.</p>}
      {room.resistances.map((r) => (
        <p key={r.filter_id + r.push} className={classes.resistance}>
          <b>{r.filter}</b> holds water back{' '}
          <b className="num">
            {fixed(r.relative.value, 2)} × ({fixed(r.relative.interval[0], 2)} to {fixed(r.relative.interval[1], 2)})
          </b>{' '}
          as strongly as {r.reference}, {PUSHES.find((p) => p.code === r.push)?.how}
          {r.proportional && '; pushed unequally, so in proportion'}.
        </p>
      ))}
      {tested.map(([id, name]) => {
        const mine = room.filter_tests.filter((t) => t.filter_id === id);
        return (
          <details key={id} className={classes.ground}>
            <summary>
              <b>{name}</b>
              <span>{plural(mine.length, 'test')}</span>
            </summary>
            <ul className={classes.doseLines}>
              {mine.map((t) => (
                <li key={t.id}>
                  <span className="num">{testWords(t)}</span>
                  <Button size="compact-xs" variant="subtle" color="red" onClick={() => remove.mutate(t.id)}>
                    delete
                  </Button>
                </li>
              ))}
            </ul>
            <Link className="small" to={`/kit/card/${id}`}>
              Its card
            </Link>
          </details>
        );
      })}
      {open && <FilterTestForm onClose={() => setOpen(false)} />}
    </section>
  );
}

/** A filter's id; none chosen is a refusal at its field. */
function chosen(id: string | undefined): string {
  if (!id) throw localRefusal('filter_id', 'no filter is chosen.', 'Choose the filter that was tested.');
  return id;
}

function testWords(t: FilterTest): string {
  const parts = [`${fixed(t.water_g, 0)} g in ${fixed(t.seconds, 1)} s`, `${fixed(t.size, 0)} ${t.unit}`];
  if (t.held_g !== null) parts.push(`holds ${fixed(t.held_g, 1)} g wet`);
  if (t.sediment !== null) parts.push(`sediment ${t.sediment} of 5`);
  if (t.note) parts.push(t.note);
  return parts.join(' · ');
}

function FilterTestForm({ onClose }: { onClose: () => void }) {
  const { data: kit } = useQuery(kitQuery);
  const filters = (kit?.items ?? []).filter((i) => i.kind === 'filter' && !i.retired);
  const form = useForm<Record<string, string>>(
    {
      filter_id: '',
      push: 'head',
      size: '',
      water_g: '200',
      seconds: '',
      dry_g: '',
      wet_g: '',
      sediment: '',
      note: '',
    },
    'filter-test',
  );
  const save = useSend(
    async () => {
      const number = (name: string) => numberOf(name, form.values[name] ?? '');
      return addFilterTest({
        filter_id: chosen(form.values.filter_id),
        push: form.values.push as FilterTestBody['push'],
        size: number('size') ?? 0,
        water_g: number('water_g') ?? 0,
        seconds: number('seconds') ?? 0,
        dry_g: number('dry_g'),
        wet_g: number('wet_g'),
        sediment: form.values.sediment ? Number(form.values.sediment) : null,
        note: form.values.note ?? '',
      });
    },
    {
      onDone: () => {
        form.forget();
        onClose();
      },
      onTrouble: shownAtField(form.setRefused),
    },
  );
  const push = PUSHES.find((p) => p.code === form.values.push)!;
  return (
    <Modal opened onClose={onClose} title="Test a filter" size="lg">
      <form
        className={classes.doseForm}
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate();
        }}
      >
        <Select
          label="Filter"
          data={filters.map((f) => ({ value: f.id, label: f.name }))}
          value={form.values.filter_id || null}
          onChange={(v) => form.set('filter_id', v ?? '')}
          error={form.refused?.at('filter_id')}
        />
        <SegmentedControl
          aria-label="Pushed by"
          className={classes.push!}
          value={form.values.push ?? 'head'}
          onChange={(v) => form.set('push', v)}
          data={PUSHES.map((p) => ({ value: p.code, label: p.asked }))}
        />
        <FormNumber form={form} name="size" label={push.size} unit={push.unit} />
        <FormNumber form={form} name="water_g" label="Water through" unit="g" />
        <FormNumber form={form} name="seconds" label="In" unit="s" />
        <span />
        <FormNumber form={form} name="dry_g" label="Filter dry" unit="g" />
        <FormNumber form={form} name="wet_g" label="Filter wet" unit="g" />
        <FivePoints
          label="Sediment"
          ends="none to much"
          value={form.values.sediment ?? ''}
          onChange={(v) => form.set('sediment', v)}
        />
        <TextInput
          label="Note"
          maxLength={200}
          value={form.values.note ?? ''}
          onChange={(e) => form.set('note', e.currentTarget.value)}
        />
        <Button type="submit" loading={save.isPending}>
          Log the test
        </Button>
      </form>
    </Modal>
  );
}
