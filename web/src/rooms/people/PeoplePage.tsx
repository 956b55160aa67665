import { DevicesCard } from './DevicesCard';
import classes from './People.module.css';
import { PeopleCard } from './PeopleCard';
import { PhonesCard } from './PhonesCard';
import { ScriptsCard } from './ScriptsCard';

/** Who brews and tastes here, and how their phones come in. */
export function PeoplePage() {
  return (
    <main className={classes.page}>
      <h1>People and phones</h1>
      <div className={classes.columns}>
        <PeopleCard />
        <div className={classes.phones}>
          <PhonesCard />
          <DevicesCard />
          <ScriptsCard />
        </div>
      </div>
    </main>
  );
}
