import { Button, Modal, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Schemas } from '../../api/client';
import { NumberField, numberOf, shownAtField, useForm } from '../../ui/fields';
import { dayAndTime, fixed } from '../../ui/numbers';
import { useTellDeleted } from '../../ui/tell';
import { heat, heatApart } from '../../ui/units';
import { useSend } from '../../ui/useSend';
import { benchQuery, editBench } from '../bench/queries';
import { instrumentsQuery, logCheck, removeCheck, repeatabilityQuery } from '../measuring/queries';
import classes from './Instruments.module.css';
import { UnitsCard } from './UnitsCard';

/** What the instruments are good for, and where the bench stands: every interval rests on it. */
export function InstrumentsPage() {
  const { data: bench } = useQuery(benchQuery);
  const [open, setOpen] = useState(false);
  if (!bench) return null;
  return (
    <main className={classes.page}>
      <header className={classes.head}>
        <h1>Accuracy, place, units</h1>
        <Link to="/kit">All kit</Link>
      </header>
      <section className="card" aria-label="Accuracy and place">
        <dl className={classes.facts}>
          <div>
            <dt>Refractometer, accuracy</dt>
            <dd className="num">±{bench.accuracy_pct} %</dd>
          </div>
          <div>
            <dt>Refractometer resolution</dt>
            <dd className="num">{bench.resolution_pct} %</dd>
          </div>
          <div>
            <dt>Scatter of one reading (SD)</dt>
            <dd className="num">{bench.repeatability_pct} %</dd>
          </div>
          <div>
            <dt>Scale, steps</dt>
            <dd className="num">{bench.scale_resolution_g} g</dd>
          </div>
          <div>
            <dt>Tolerances</dt>
            <dd className="num">
              {bench.tolerance_g} g or {bench.tolerance_pct} %, {bench.tolerance_s} s, {heatApart(bench.tolerance_c)}
            </dd>
          </div>
          <div>
            <dt>Place</dt>
            <dd className="num">
              {bench.altitude_m} m, boils at {heat(bench.boiling_point_c, 1)}
            </dd>
          </div>
          <div>
            <dt>Room</dt>
            <dd className="num">{heat(bench.ambient_c)}</dd>
          </div>
        </dl>
        <Repeats bench={bench} />
        <Checks />
        <Button variant="default" onClick={() => setOpen(true)}>
          Change
        </Button>
      </section>
      <UnitsCard />
      {open && <BenchForm bench={bench} onClose={() => setOpen(false)} />}
    </main>
  );
}

type NumberName =
  | 'tolerance_g'
  | 'tolerance_pct'
  | 'tolerance_s'
  | 'tolerance_c'
  | 'brix_factor'
  | 'accuracy_pct'
  | 'resolution_pct'
  | 'repeatability_pct'
  | 'scale_resolution_g'
  | 'altitude_m'
  | 'ambient_c';

function BenchForm({ bench, onClose }: { bench: Schemas['BenchAnswer']; onClose: () => void }) {
  const form = useForm({
    name: bench.name,
    accuracy_pct: String(bench.accuracy_pct),
    resolution_pct: String(bench.resolution_pct),
    repeatability_pct: String(bench.repeatability_pct),
    scale_resolution_g: String(bench.scale_resolution_g),
    altitude_m: String(bench.altitude_m),
    ambient_c: String(bench.ambient_c),
    tolerance_g: String(bench.tolerance_g),
    tolerance_pct: String(bench.tolerance_pct),
    tolerance_s: String(bench.tolerance_s),
    tolerance_c: String(bench.tolerance_c),
    brix_factor: String(bench.brix_factor),
    scale_address: bench.scale_address,
  });
  const save = useSend(
    async () => {
      const number = (field: NumberName) => numberOf(field, form.values[field]) ?? 0;
      const body = {
        name: form.values.name,
        accuracy_pct: number('accuracy_pct'),
        resolution_pct: number('resolution_pct'),
        repeatability_pct: number('repeatability_pct'),
        scale_resolution_g: number('scale_resolution_g'),
        altitude_m: Math.round(number('altitude_m')),
        ambient_c: numberOf('ambient_c', form.values.ambient_c) ?? 21,
        tolerance_g: number('tolerance_g'),
        tolerance_pct: number('tolerance_pct'),
        tolerance_s: number('tolerance_s'),
        tolerance_c: number('tolerance_c'),
        brix_factor: numberOf('brix_factor', form.values.brix_factor) ?? 0.85,
        scale_address: form.values.scale_address.trim(),
      };
      return editBench(bench.rev, body);
    },
    {
      onDone: onClose,
      onTrouble: shownAtField(form.setRefused),
    },
  );
  const field = (name: NumberName) => ({
    value: form.values[name],
    onText: (text: string) => form.set(name, text),
    error: form.refused?.at(name),
  });
  return (
    <Modal opened onClose={onClose} title="The bench and its instruments">
      <form
        className={classes.form}
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate();
        }}
      >
        <TextInput
          label="Name of the bench"
          value={form.values.name}
          onChange={(e) => form.set('name', e.currentTarget.value)}
          error={form.refused?.at('name')}
        />
        <NumberField label="Refractometer accuracy, half-width" unit="% TDS" {...field('accuracy_pct')} />
        <NumberField label="Refractometer steps" unit="% TDS" {...field('resolution_pct')} />
        <NumberField
          label="Scatter of one reading"
          description="The SD of readings of one drink. It counts where a drink is read once."
          unit="% TDS"
          {...field('repeatability_pct')}
        />
        <NumberField label="Scale steps" unit="g" {...field('scale_resolution_g')} />
        <NumberField
          label="Altitude"
          description="Water boils cooler up high; recipes are checked against it."
          unit="m"
          {...field('altitude_m')}
        />
        <NumberField label="Room" description="Cups cool towards it." unit="°C" {...field('ambient_c')} />
        <NumberField label="% TDS per °Brix" {...field('brix_factor')} />
        <TextInput
          label="A scale on the network"
          description="It writes its readings as lines of text. Empty: none."
          placeholder="192.168.1.40:7070"
          maxLength={60}
          value={form.values.scale_address}
          onChange={(e) => form.set('scale_address', e.currentTarget.value)}
          error={form.refused?.at('scale_address')}
        />
        <fieldset className={classes.tolerances}>
          <legend>A brew is on plan within</legend>
          <NumberField label="Water" unit="g" {...field('tolerance_g')} />
          <NumberField label="or, if more" unit="%" {...field('tolerance_pct')} />
          <NumberField label="Times" unit="s" {...field('tolerance_s')} />
          <NumberField label="Temperature" unit="°C" apart {...field('tolerance_c')} />
        </fieldset>
        <Button type="submit" loading={save.isPending}>
          Save
        </Button>
      </form>
    </Modal>
  );
}

/** What the bench's own double readings say of one reading, offered where it differs from what is set. */
function Repeats({ bench }: { bench: Schemas['BenchAnswer'] }) {
  const { data: own } = useQuery(repeatabilityQuery);
  const take = useSend((sd_pct: number) => editBench(bench.rev, { repeatability_pct: sd_pct }));
  const sd = own?.sd_pct ?? null;
  if (!own || sd === null || sd === bench.repeatability_pct) return null;
  return (
    <div className={classes.checks}>
      <p>
        The scatter of your own {own.drinks} drinks that were read more than once is{' '}
        <b className="num">{fixed(sd, 3)} %</b>. Drinks read once are judged by it.
      </p>
      <Button size="compact-sm" variant="default" loading={take.isPending} onClick={() => take.mutate(sd)}>
        Use {fixed(sd, 3)} %
      </Button>
    </div>
  );
}

/** The refractometer against a liquid of known strength: a dated offset, applied and shown. */
function Checks() {
  const { data } = useQuery(instrumentsQuery);
  const [open, setOpen] = useState(false);
  const form = useForm({ reference_pct: '0', read_pct: '', note: '' });
  const tellDeleted = useTellDeleted();
  const log = useSend(
    async () =>
      logCheck({
        reference_pct: numberOf('reference_pct', form.values.reference_pct) ?? 0,
        read_pct: numberOf('read_pct', form.values.read_pct) ?? Number.NaN,
        note: form.values.note,
      }),
    { onDone: () => setOpen(false), onTrouble: shownAtField(form.setRefused) },
  );
  const remove = useSend((id: string) => removeCheck(id), {
    onDone: (done) => tellDeleted('The check', done.change_id),
  });
  const newest = data?.checks[0];
  return (
    <div className={classes.checks}>
      <p>
        {newest ? (
          <>
            Checked {dayAndTime(newest.checked_at)}:{' '}
            {newest.offset_pct === 0 ? (
              'no offset.'
            ) : (
              <>
                <b className="num">{fixed(newest.offset_pct)} %</b> is taken off every reading since.
              </>
            )}
          </>
        ) : (
          'Not checked against a reference yet.'
        )}
      </p>
      <Button size="compact-sm" variant="subtle" onClick={() => setOpen(true)}>
        Check the refractometer
      </Button>
      {open && (
        <Modal opened onClose={() => setOpen(false)} title="Check the refractometer">
          <form
            className={classes.form}
            onSubmit={(e) => {
              e.preventDefault();
              log.mutate();
            }}
          >
            <NumberField
              label="The liquid's true strength"
              description="Distilled water is 0; any solution you trust will do."
              unit="% TDS"
              value={form.values.reference_pct}
              onText={(t) => form.set('reference_pct', t)}
              error={form.refused?.at('reference_pct')}
            />
            <NumberField
              label="What the instrument read"
              unit="% TDS"
              data-autofocus
              value={form.values.read_pct}
              onText={(t) => form.set('read_pct', t)}
              error={form.refused?.at('read_pct')}
            />
            <TextInput
              label="Note"
              value={form.values.note}
              onChange={(e) => form.set('note', e.currentTarget.value)}
              error={form.refused?.at('note')}
            />
            <Button type="submit" loading={log.isPending}>
              Log the check
            </Button>
          </form>
          {data && data.checks.length > 0 && (
            <ul className={classes.checkList}>
              {data.checks.map((c) => (
                <li key={c.id}>
                  <span className="num">
                    {dayAndTime(c.checked_at)}: {fixed(c.read_pct)} for {fixed(c.reference_pct)} %
                  </span>
                  <span className="quiet small">{c.note}</span>
                  <Button size="compact-xs" variant="subtle" color="red" onClick={() => remove.mutate(c.id)}>
                    Delete
                  </Button>
                </li>
              ))}
            </ul>
          )}
        </Modal>
      )}
    </div>
  );
}
