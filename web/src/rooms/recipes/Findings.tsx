import { Button } from '@mantine/core';
import type { Finding, RecipeDocument } from './queries';
import classes from './Recipes.module.css';

const WORDS: Record<Finding['severity'], string> = {
  error: 'error',
  warning: 'warning',
  advice: 'advice',
  information: 'for information',
};

type FindingsProps = {
  findings: Finding[];
  onMend: (document: RecipeDocument) => void;
  onShow: (where: string) => void;
};

/** What the check found: where, why, and a click that puts it right. */
export function Findings({ findings, onMend, onShow }: FindingsProps) {
  if (!findings.length) return <p className={classes.sound}>It adds up. Nothing stands out.</p>;
  return (
    <ul className={classes.findings} aria-label="Findings">
      {findings.map((f) => (
        <li key={`${f.code} ${f.where}`} data-severity={f.severity}>
          <span className={classes.shape} aria-hidden />
          <div>
            <p>
              <b>{f.text}</b>
            </p>
            <p className="small quiet">
              {WORDS[f.severity]} at{' '}
              <button type="button" className={classes.place} onClick={() => onShow(f.where)}>
                {f.place}
              </button>
              . {f.why}
            </p>
            {f.mends.length > 0 && (
              <div className={classes.mends}>
                {f.mends.map((m) => (
                  <Button key={m.label} size="compact-sm" variant="light" onClick={() => onMend(m.document)}>
                    {m.label}
                  </Button>
                ))}
              </div>
            )}
          </div>
        </li>
      ))}
    </ul>
  );
}
