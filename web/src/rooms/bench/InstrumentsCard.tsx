import { Button, Modal, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, type Schemas, take } from '../../api/client';
import { NumberField, numberOf, shownAtField, useTyped } from '../../ui/fields';
import { useSend } from '../../ui/useSend';
import classes from './BenchPage.module.css';
import { benchQuery } from './queries';

/** What the instruments are good for: every interval on the bench rests on it. */
export function InstrumentsCard() {
  const { data: bench } = useQuery(benchQuery);
  const [open, setOpen] = useState(false);
  if (!bench) return null;
  return (
    <div className="card">
      <h2>Instruments and place</h2>
      <dl className={classes.facts}>
        <div>
          <dt>Refractometer, accuracy</dt>
          <dd className="num">±{bench.accuracy_pct} %</dd>
        </div>
        <div>
          <dt>Refractometer, steps</dt>
          <dd className="num">{bench.resolution_pct} %</dd>
        </div>
        <div>
          <dt>Scale, steps</dt>
          <dd className="num">{bench.scale_resolution_g} g</dd>
        </div>
        <div>
          <dt>Place</dt>
          <dd className="num">
            {bench.altitude_m} m, boils at {bench.boiling_point_c.toFixed(1)} °C
          </dd>
        </div>
        <div>
          <dt>Room</dt>
          <dd className="num">{bench.ambient_c} °C</dd>
        </div>
      </dl>
      <Button variant="default" onClick={() => setOpen(true)}>
        Change
      </Button>
      {open && <BenchForm bench={bench} onClose={() => setOpen(false)} />}
    </div>
  );
}

type NumberName = 'accuracy_pct' | 'resolution_pct' | 'scale_resolution_g' | 'altitude_m' | 'ambient_c';

function BenchForm({ bench, onClose }: { bench: Schemas['BenchAnswer']; onClose: () => void }) {
  const form = useTyped({
    name: bench.name,
    accuracy_pct: String(bench.accuracy_pct),
    resolution_pct: String(bench.resolution_pct),
    scale_resolution_g: String(bench.scale_resolution_g),
    altitude_m: String(bench.altitude_m),
    ambient_c: String(bench.ambient_c),
  });
  const save = useSend(
    async () => {
      const number = (field: NumberName) => numberOf(field, form.texts[field]) ?? 0;
      const body = {
        name: form.texts.name,
        accuracy_pct: number('accuracy_pct'),
        resolution_pct: number('resolution_pct'),
        scale_resolution_g: number('scale_resolution_g'),
        altitude_m: Math.round(number('altitude_m')),
        ambient_c: numberOf('ambient_c', form.texts.ambient_c) ?? 21,
      };
      return take(api.PATCH('/api/v1/bench', { params: { header: { 'If-Match': bench.rev } }, body }));
    },
    {
      onDone: onClose,
      onTrouble: shownAtField(form.setRefused),
    },
  );
  const field = (name: NumberName) => ({
    value: form.texts[name],
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
          value={form.texts.name}
          onChange={(e) => form.set('name', e.currentTarget.value)}
          error={form.refused?.at('name')}
        />
        <NumberField label="Refractometer accuracy, half-width" unit="% TDS" {...field('accuracy_pct')} />
        <NumberField label="Refractometer steps" unit="% TDS" {...field('resolution_pct')} />
        <NumberField label="Scale steps" unit="g" {...field('scale_resolution_g')} />
        <NumberField
          label="Height above the sea"
          description="Water boils cooler up high; recipes are checked against it."
          unit="m"
          {...field('altitude_m')}
        />
        <NumberField label="Room" description="Cups cool towards it." unit="°C" {...field('ambient_c')} />
        <Button type="submit" loading={save.isPending}>
          Save
        </Button>
      </form>
    </Modal>
  );
}
