import { Button, Select } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { peopleQuery } from '../people/queries';
import { useWho } from '../people/useWho';
import { kept } from './drilling';
import { NewDrill } from './NewDrill';
import classes from './Palate.module.css';
import { drillsQuery } from './queries';

/** One taster's own exercises: nobody's stand beside anybody else's. */
export function DrillsCard() {
  const { who } = useWho();
  const { data: people = [] } = useQuery(peopleQuery);
  const [chosen, setChosen] = useState<string | null>(null);
  const [making, setMaking] = useState(false);
  const navigate = useNavigate();
  const whose = chosen ?? (people.some((p) => p.id === who) ? who : null);
  const { data } = useQuery({ ...drillsQuery(whose ?? ''), enabled: whose !== null });
  return (
    <section className="card" aria-labelledby="drills">
      <h2 id="drills">Drills</h2>
      <p className="quiet small">
        Short exercises for one taster alone: shuffle marked cups, answer, turn them over. Compared with guessing.
      </p>
      <div className={classes.whose}>
        <Select
          label="Taster"
          placeholder="Whose drills?"
          value={whose}
          onChange={setChosen}
          data={people.map((p) => ({ value: p.id, label: p.name }))}
        />
        <Button variant="default" disabled={whose === null} onClick={() => setMaking(true)}>
          New drill
        </Button>
      </div>
      {data && <p className="quiet small">{kept(data.weeks, data.sittings)}</p>}
      <ul className={classes.sessions}>
        {data?.drills.map((d) => (
          <li key={d.id}>
            <Link to={`/palate/drills/${d.id}`}>
              {d.word}: {d.cups.map((c) => c.name).join(', ')}
            </Link>
            <span className="quiet small">{d.text}</span>
          </li>
        ))}
      </ul>
      {making && whose && (
        <NewDrill
          personId={whose}
          shelf={data?.shelf ?? []}
          onClose={() => setMaking(false)}
          onMade={(made) => navigate(`/palate/drills/${made.id}`)}
        />
      )}
    </section>
  );
}
