import { Button, Modal, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import { MATCH_KINDS, USUAL_MATCH } from '../../api/vocabulary';
import { DayField } from '../../ui/DayField';
import { localRefusal, NumberField, numberOf, shownAtField, useForm } from '../../ui/fields';
import { Lines } from '../../ui/Lines';
import { useTellDeleted } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import classes from './Kit.module.css';
import { addPair, editPair, type Pair, type PairBody, removePair, type Settings } from './queries';

/** Made from sieve samples, never typed. */
const SAMPLED = new Set<string>(MATCH_KINDS.filter((m) => m.sampled).map((m) => m.code));

/** Every match the translator rests on; what contradicts itself is named. */
export function Matches({ settings }: { settings: Settings }) {
  const [open, setOpen] = useState<Pair | 'new' | null>(null);
  return (
    <section className="card" aria-labelledby="matches">
      <div className={classes.detailHead}>
        <h2 id="matches">Matched settings</h2>
        <Button variant="default" onClick={() => setOpen('new')}>
          Add a match
        </Button>
      </div>
      {settings.faults.map((fault) => (
        <p key={fault} className={classes.fault} role="alert">
          {fault}
        </p>
      ))}
      {settings.pairs.length ? (
        <Lines className={classes.scrollPairs} label="Pairs of settings">
          <table className={classes.pairs}>
            <thead>
              <tr>
                <th scope="col">This</th>
                <th scope="col">grinds like this</th>
                <th scope="col">matched by</th>
                <th scope="col">
                  <span className="sr-only">Change</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {settings.pairs.map((p) => (
                <tr key={p.id} data-fault={p.at_fault}>
                  <td>
                    {p.a_name} <b className="num">{p.a_setting}</b>
                  </td>
                  <td>
                    {p.b_name} <b className="num">{p.b_setting}</b>
                  </td>
                  <td>
                    {p.match_label}
                    {p.samples > 0 && <span className="quiet small"> of {p.samples} samples</span>}
                    {p.matched_on && <span className="quiet small"> {day(p.matched_on)}</span>}
                  </td>
                  <td>
                    <Button
                      size="compact-xs"
                      variant="subtle"
                      aria-label={`Change ${p.a_name} ${p.a_setting}`}
                      onClick={() => setOpen(p)}
                    >
                      change
                    </Button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Lines>
      ) : (
        <p className="quiet">None yet. Two settings that sieve alike, or brew in the same time, make the first.</p>
      )}
      {settings.said.length > 0 && (
        <div className={classes.said}>
          <h3>Recipes say</h3>
          <p className="quiet small">Used only between grinders you have not matched by sieve, time or yield.</p>
          <ul>
            {settings.said.map((s) => (
              <li key={s.recipe + s.text}>
                {s.text}, {s.recipe}
              </li>
            ))}
          </ul>
        </div>
      )}
      {open && <PairForm settings={settings} pair={open === 'new' ? null : open} onClose={() => setOpen(null)} />}
    </section>
  );
}

const day = (iso: string) => new Date(`${iso}T12:00`).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' });

function PairForm({ settings, pair, onClose }: { settings: Settings; pair: Pair | null; onClose: () => void }) {
  const [first, second] = settings.scales;
  const form = useForm({
    a_id: pair?.a_id ?? first!.id,
    a_setting: pair ? String(pair.a_setting) : '',
    b_id: pair?.b_id ?? second!.id,
    b_setting: pair ? String(pair.b_setting) : '',
    match: pair?.match ?? USUAL_MATCH,
    matched_on: pair?.matched_on ?? new Date().toISOString().slice(0, 10),
    note: pair?.note ?? '',
  });
  const tellDeleted = useTellDeleted();
  const number = (name: 'a_setting' | 'b_setting') => {
    const value = numberOf(name, form.values[name]);
    if (value === null) throw localRefusal(name, 'nothing is typed.', 'Give the setting.');
    return value;
  };
  const save = useSend(
    async () => {
      const body: PairBody = {
        a_id: form.values.a_id,
        a_setting: number('a_setting'),
        b_id: form.values.b_id,
        b_setting: number('b_setting'),
        match: form.values.match as PairBody['match'],
        matched_on: form.values.matched_on || null,
        note: form.values.note,
      };
      return pair ? editPair(pair.id, pair.rev, body) : addPair(body);
    },
    { onDone: onClose, onTrouble: shownAtField(form.setRefused) },
  );
  const remove = useSend(() => removePair(pair!.id), {
    onDone: (done) => {
      tellDeleted('The match', done.change_id);
      onClose();
    },
  });
  const names = settings.scales.map((s) => ({ value: s.id, label: s.name }));
  const side = (id: 'a_id' | 'b_id', setting: 'a_setting' | 'b_setting', label: string) => (
    <>
      <Select
        label={label}
        data={names}
        allowDeselect={false}
        value={form.values[id]}
        onChange={(v) => form.set(id, v ?? '')}
        error={form.refused?.at(id)}
      />
      <NumberField
        label="at"
        value={form.values[setting]}
        onText={(text) => form.set(setting, text)}
        error={form.refused?.at(setting)}
      />
    </>
  );
  return (
    <Modal opened onClose={onClose} title={pair ? 'Change a match' : 'Two settings that grind alike'}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate();
        }}
      >
        <div className={classes.formGrid}>
          {side('a_id', 'a_setting', 'Grinder')}
          {side('b_id', 'b_setting', 'grinds like')}
          <Select
            label="Matched by"
            allowDeselect={false}
            data={Object.entries(settings.match_kinds).map(([value, label]) => ({
              value,
              label,
              disabled: SAMPLED.has(value) && !SAMPLED.has(pair?.match ?? ''),
            }))}
            description="A match by sieve median is made from two samples, in the Grind room."
            error={form.refused?.at('match')}
            value={form.values.match}
            onChange={(v) => form.set('match', (v ?? 'by_eye') as typeof form.values.match)}
          />
          <DayField
            label="On"
            value={form.values.matched_on}
            onText={(text) => form.set('matched_on', text)}
            error={form.refused?.at('matched_on')}
          />
          <TextInput
            className={classes.wide}
            label="Note"
            maxLength={200}
            value={form.values.note}
            onChange={(e) => form.set('note', e.currentTarget.value)}
          />
        </div>
        <div className={classes.headActions}>
          <Button type="submit" loading={save.isPending}>
            {pair ? 'Save the match' : 'Add the match'}
          </Button>
          {pair && (
            <Button variant="subtle" color="red" onClick={() => remove.mutate()}>
              Take it out
            </Button>
          )}
        </div>
      </form>
    </Modal>
  );
}
