import { Button, SegmentedControl, Select, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { DayField } from '../../ui/DayField';
import { localRefusal, NumberField, numberOf, shownAtField, useForm } from '../../ui/fields';
import { Loaded } from '../../ui/Loading';
import { tellDone } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import { type Kit, kitQuery } from '../kit/queries';
import classes from './Grind.module.css';
import { LiveSieve } from './LiveSieve';
import { readMass } from './pick';
import {
  addSample,
  editSample,
  type GrindRoom,
  roomQuery,
  type Sample,
  type SampleBody,
  shakeSimulated,
} from './queries';
import { TableIn } from './TableIn';
import { Trays } from './Trays';
import { settingOf, WhereGround } from './WhereGround';

/** One sample at the sieves: where it was ground, what went in, what lies on each. Built for wet hands: one key moves on. */
export function SamplePage() {
  const room = useQuery(roomQuery(null));
  const kit = useQuery(kitQuery);
  const [params] = useSearchParams();
  const [way, setWay] = useState<'sieves' | 'table'>('sieves');
  const edited = params.get('edit');
  return (
    <main className={classes.page}>
      <header className={classes.head}>
        <div>
          <p className="small">
            <Link to="/grind">Grind room</Link>
          </p>
          <h1>{edited ? 'Correct a sample' : 'Sample a grind'}</h1>
        </div>
        {!edited && (
          <SegmentedControl
            aria-label="How it was measured"
            value={way}
            onChange={(v) => setWay(v as 'sieves' | 'table')}
            data={[
              { value: 'sieves', label: 'Sieves' },
              { value: 'table', label: 'A table of sizes' },
            ]}
          />
        )}
      </header>
      <Loaded query={room}>
        {(r) => (
          <Loaded query={kit}>
            {(k) =>
              way === 'table' ? (
                <TableIn room={r} kit={k} />
              ) : (
                <Shaken key={edited ?? 'new'} room={r} kit={k} edited={sampleOf(r, edited)} />
              )
            }
          </Loaded>
        )}
      </Loaded>
    </main>
  );
}

type Edited = { sample: Sample; dial_id: string; setting: number; coffee_id: string | null };

function sampleOf(room: GrindRoom, id: string | null): Edited | null {
  for (const g of room.grinds) {
    const sample = g.samples.find((s) => s.id === id);
    if (sample) return { sample, dial_id: g.dial_id, setting: g.setting, coffee_id: g.coffee_id };
  }
  return null;
}

type ShakenProps = { room: GrindRoom; kit: Kit; edited: Edited | null };

function Shaken({ room, kit, edited }: ShakenProps) {
  const [params] = useSearchParams();
  const navigate = useNavigate();
  const asked = (name: string) => params.get(name) ?? '';
  const stacks = room.stacks;
  const like = edited?.sample;
  const form = useForm<Record<string, string>>(
    {
      dial_id: edited?.dial_id ?? (asked('dial') || room.dials[0]?.id || ''),
      setting: edited ? String(edited.setting) : asked('setting'),
      coffee_id: edited?.coffee_id ?? asked('coffee'),
      stack_id: like?.stack_id ?? (asked('stack') || stacks[0]?.id || ''),
      mass_in_g: like ? String(like.mass_in_g) : asked('mass') || '25',
      shaken_s: like?.shaken_s ? String(like.shaken_s) : '',
      shaken_how: like?.shaken_how ?? '',
      note: like?.note ?? '',
      simulated: like?.source === 'simulated' ? 'yes' : '',
      sampled_on: like?.sampled_on ?? '',
      ...Object.fromEntries((like?.fractions ?? []).map((f) => [`heap_${f.aperture_um}`, String(f.mass_g)])),
    },
    edited ? '' : `sample-${params.toString()}`,
  );
  const simulated = form.values.simulated === 'yes';
  const stack = stacks.find((s) => s.id === form.values.stack_id);
  const apertures = [0, ...(stack?.apertures_um ?? like?.fractions.slice(1).map((f) => f.aperture_um) ?? [])];
  const heaps = apertures.map((a) => ({ aperture_um: a, mass_g: readMass(form.values[`heap_${a}`] ?? '') }));
  const mass = readMass(form.values.mass_in_g ?? '');
  const save = useSend(
    async () => {
      const body = bodyOf(form.values, heaps, mass, simulated);
      return edited ? editSample(edited.sample.id, edited.sample.rev, body) : addSample(body);
    },
    {
      onDone: (made) => {
        form.forget();
        tellDone('The sample is kept.');
        const against = asked('against');
        navigate(`/grind?${new URLSearchParams(against ? { first: against, second: made.id } : { first: made.id })}`);
      },
      onTrouble: shownAtField((refused) => form.setRefused(refused)),
    },
  );
  const simulate = useSend(
    () =>
      shakeSimulated(form.values.dial_id!, numberOf('setting', form.values.setting ?? '') ?? 0, stack!.id, mass ?? 25),
    {
      onDone: (made) => {
        for (const f of made.fractions) form.set(`heap_${f.aperture_um}`, String(f.mass_g));
        form.set('simulated', 'yes');
        tellDone(made.rests_on);
      },
      onTrouble: shownAtField(form.setRefused),
    },
  );
  if (!room.dials.length || (!stacks.length && !edited))
    return (
      <section className={`card ${classes.none}`}>
        <p>A sample needs a grinder and a sieve stack of the kit.</p>
        <Link to={room.dials.length ? '/kit/sieve_stack' : '/kit/grinder'}>
          Add {room.dials.length ? 'the sieve stack' : 'the grinder'}
        </Link>
      </section>
    );
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
        <Select
          label="Stack"
          data={stacks.map((s) => ({ value: s.id, label: `${s.name}: ${s.apertures_um.join(', ')} µm` }))}
          allowDeselect={false}
          value={form.values.stack_id ?? null}
          onChange={(v) => form.set('stack_id', v ?? '')}
          error={form.refused?.at('stack_id')}
        />
        <details className={classes.more} open={Boolean(like)}>
          <summary>Shaking, day, note</summary>
          <div className={classes.where}>
            <NumberField
              label="Shaken for"
              unit="s"
              placeholder={stack?.usual_s ? String(stack.usual_s) : ''}
              value={form.values.shaken_s ?? ''}
              onText={(t) => form.set('shaken_s', t)}
              error={form.refused?.at('shaken_s')}
            />
            <TextInput
              label="How"
              maxLength={80}
              placeholder="by hand, flat circles"
              value={form.values.shaken_how ?? ''}
              onChange={(e) => form.set('shaken_how', e.currentTarget.value)}
            />
            <DayField
              label="Day"
              description="Empty: today."
              value={form.values.sampled_on ?? ''}
              onText={(text) => form.set('sampled_on', text)}
              error={form.refused?.at('sampled_on')}
            />
            <TextInput
              label="Note"
              maxLength={200}
              value={form.values.note ?? ''}
              onChange={(e) => form.set('note', e.currentTarget.value)}
            />
          </div>
        </details>
      </section>
      <section className={`card ${classes.weighing}`} aria-label="What lies on each sieve">
        <Trays
          apertures={apertures}
          texts={form.values}
          set={(name, text) => {
            form.set('simulated', '');
            form.set(name, text);
          }}
          massIn={mass}
          errorOf={(i) =>
            form.refused?.at(`fractions.${i}.mass_g`) ?? (i === 0 ? form.refused?.at('fractions') : undefined)
          }
          massError={form.refused?.at('mass_in_g')}
        />
        <div className={classes.go}>
          <Button type="submit" size="md" loading={save.isPending}>
            {edited ? 'Save the sample' : 'Keep the sample'}
          </Button>
          {!edited && stack && (
            <Button variant="default" size="md" loading={simulate.isPending} onClick={() => simulate.mutate()}>
              Shake simulated sieves
            </Button>
          )}
          {simulated && <span className={classes.simulated}>simulated</span>}
        </div>
      </section>
      <LiveSieve heaps={heaps} massIn={mass} stepG={like?.scale_step_g ?? room.scale_step_g} />
    </form>
  );
}

function bodyOf(
  texts: Record<string, string>,
  heaps: { aperture_um: number; mass_g: number | null }[],
  mass: number | null,
  simulated: boolean,
): SampleBody {
  const missing = [...heaps.keys()].reverse().find((i) => heaps[i]!.mass_g === null);
  if (mass === null)
    throw localRefusal('mass_in_g', 'this is no mass.', 'Enter grams, or full less empty: 105.3-80.1.');
  if (missing !== undefined)
    throw localRefusal(
      `fractions.${missing}.mass_g`,
      'this is no mass.',
      'Enter grams, or full less empty: 86.4-80.1. Nothing: 0.',
    );
  return {
    dial_id: texts.dial_id!,
    setting: settingOf(texts),
    coffee_id: texts.coffee_id || null,
    sampled_on: texts.sampled_on || null,
    note: texts.note ?? '',
    stack_id: texts.stack_id || null,
    mass_in_g: mass,
    fractions: heaps.map((h) => ({ aperture_um: h.aperture_um, mass_g: h.mass_g! })),
    scale_step_g: null,
    shaken_s: numberOf('shaken_s', texts.shaken_s ?? ''),
    shaken_how: texts.shaken_how ?? '',
    simulated,
  };
}
