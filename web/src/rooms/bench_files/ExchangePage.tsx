import { Button } from '@mantine/core';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { Refused, type Schemas } from '../../api/client';
import { toldAsItGoes } from '../../api/lines';
import { ChooseFile } from '../../ui/ChooseFile';
import { Far } from '../../ui/Far';
import type { HowFar } from '../../ui/howFar';
import { useSend } from '../../ui/useSend';
import { DamagedRows } from '../damaged_rows/DamagedRows';
import classes from './Exchange.module.css';

const MOST_BYTES = 9_000_000;
const MOST_HERE_BYTES = 300_000_000;

/** Whether this page is looked at on the bench's own machine, where larger files come in. */
const here = () => ['localhost', '127.0.0.1', '[::1]'].includes(window.location.hostname);

/** What a bench holds, taken out as open files, and brought in. */
export function ExchangePage() {
  return (
    <main className={classes.page}>
      <h1>Import and export</h1>
      <DamagedRows />
      <div className={classes.both}>
        <Out />
        <In />
      </div>
      <section className="card" aria-labelledby="backups">
        <h2 id="backups">Backups</h2>
        <p>
          At the machine the bench runs on: <code>./penny backup FILE</code> takes a copy while it runs, puts it back
          into a scratch database and compares every row before it says that it is done. With <code>PENNY_NIGHTLY</code>{' '}
          set to a folder it does so each night. <code>./penny restore FILE</code> puts one back.
        </p>
      </section>
    </main>
  );
}

function Out() {
  return (
    <section className="card" aria-labelledby="out">
      <h2 id="out">Export</h2>
      <p>
        Everything on this bench as open files: a JSON and a CSV file for each kind, the pictures, and what each field
        means. Without its passphrase and its secret.
      </p>
      <Button component="a" href="/api/v1/export.zip" download size="md">
        Download the whole bench
      </Button>
      <p className="quiet small">Scores alone stand on each trial’s report, as CSV and Parquet.</p>
    </section>
  );
}

function In() {
  const client = useQueryClient();
  const [said, setSaid] = useState<string[]>([]);
  const [trouble, setTrouble] = useState('');
  const [far, setFar] = useState<HowFar | null>(null);
  const read = useSend(
    async (file: File) => {
      const most = here() ? MOST_HERE_BYTES : MOST_BYTES;
      if (file.size > most)
        throw new Refused(
          413,
          null,
          `This file is larger than ${most / 1e6} MB. Import it ${here() ? 'with ./penny import' : 'at the bench’s own machine'}.`,
        );
      return toldAsItGoes<Schemas['ArrivedAnswer']>('/api/v1/bench-import', file, (done, of) => setFar({ done, of }));
    },
    {
      onDone: (done) => {
        setSaid(done.said);
        client.invalidateQueries();
      },
      onTrouble: (error) => {
        if (!(error instanceof Refused)) return false;
        setTrouble(error.message);
        return true;
      },
    },
  );
  return (
    <section className="card" aria-labelledby="in">
      <h2 id="in">Import</h2>
      <p>
        Another bench comes in beside this one: all of it or nothing, and the same one twice changes nothing. What is
        here already stays as it is. People and kit of the same name are taken for the same. Trials that come in are
        marked as tasted on another bench.
      </p>
      <div className={classes.go}>
        <ChooseFile
          accept=".zip,application/zip"
          onFile={(file) => {
            setSaid([]);
            setTrouble('');
            setFar(null);
            read.mutate(file);
          }}
        >
          {(props) => (
            <Button {...props} size="md" variant="default" loading={read.isPending}>
              Import a bench
            </Button>
          )}
        </ChooseFile>
        <Button component={Link} to="/brews/bring-in" size="md" variant="subtle">
          A spreadsheet of brews
        </Button>
        <Button component={Link} to="/brews/bring-in?of=scores" size="md" variant="subtle">
          A spreadsheet of scores
        </Button>
      </div>
      {read.isPending && (
        <Far
          far={far}
          label="How far the import is"
          before="Reading the file"
          told={({ done, of }) => `${Math.round((100 * done) / of)} %: every row is checked, then all are written`}
        />
      )}
      {trouble && (
        <p role="alert" className={classes.trouble}>
          {trouble}
        </p>
      )}
      <div role="status">
        {said.map((line) => (
          <p key={line}>{line}</p>
        ))}
      </div>
    </section>
  );
}
