import { useQueryClient } from '@tanstack/react-query';
import { dayAndTime, plural } from '../../ui/numbers';
import { tellTrouble } from '../../ui/tell';
import { type Recipe, recipeQuery } from './queries';
import classes from './Recipes.module.css';

type VersionsProps = {
  recipe: Recipe;
  opened: number;
  onOpen: (version: number, document: Recipe['document']) => void;
};

/** Every version with what it changed; opening an old one leaves the newer ones as they are. */
export function Versions({ recipe, opened, onOpen }: VersionsProps) {
  const client = useQueryClient();
  const open = async (number: number) => {
    try {
      const found = await client.fetchQuery(recipeQuery(recipe.id, number));
      onOpen(number, found.document);
    } catch (error) {
      tellTrouble(error);
    }
  };
  return (
    <ol className={classes.versions} aria-label="Versions">
      {recipe.versions.map((v) => (
        <li key={v.id}>
          <button type="button" aria-current={v.number === opened || undefined} onClick={() => open(v.number)}>
            <b className="num">{v.number}</b>
            <span>
              {v.changes}
              {v.note && <i> {v.note}</i>}
              <span className="quiet small">
                {dayAndTime(v.created_at)}
                {v.errors > 0 && ' · draft'}
                {v.setups > 0 && ` · ${plural(v.setups, 'setup')}`}
              </span>
            </span>
          </button>
        </li>
      ))}
    </ol>
  );
}
