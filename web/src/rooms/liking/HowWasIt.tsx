import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { likedQuery } from './queries';

/** Which recipe was liked most, honestly: sighted, by how many, how often. */
export function HowWasIt({ coffee, days, heading }: { coffee?: string; days?: number; heading: string }) {
  const { data } = useQuery(likedQuery({ ...(coffee && { coffee }), ...(days && { days }) }));
  if (!data?.recipes.length) return null;
  return (
    <section aria-label={heading}>
      <h2>{heading}</h2>
      {data.recipes.slice(0, 4).map((r) => (
        <p key={r.recipe_id}>
          <Link to={`/recipes/${r.recipe_id}`}>{r.text}</Link>
        </p>
      ))}
      <p className="quiet small">{data.sighted}</p>
    </section>
  );
}
