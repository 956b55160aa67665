import { Button, CopyButton, Modal } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import classes from './Handed.module.css';
import { linkQuery, type Recipe } from './queries';

/** A recipe for somebody with a bench of their own: a link that holds it whole, its code for a camera, a file. */
export function HandOn({ recipe, onClose }: { recipe: Recipe; onClose: () => void }) {
  const { data } = useQuery(linkQuery(recipe.id));
  return (
    <Modal opened onClose={onClose} title={`Share ${recipe.name}`}>
      <div className={classes.hand}>
        <img
          src={`/api/v1/recipes/${recipe.id}/link.svg`}
          alt="The recipe’s link as a code for the camera"
          width={260}
        />
        <p className="quiet small">
          The whole recipe is in the link. Opened here, or pasted under Recipes, Import on another bench, it needs no
          network.
        </p>
        <div className={classes.go}>
          <CopyButton value={data?.link ?? ''}>
            {({ copied, copy }) => (
              <Button onClick={copy} disabled={!data}>
                {copied ? 'Copied' : 'Copy the link'}
              </Button>
            )}
          </CopyButton>
          <Button variant="default" component="a" href={`/api/v1/recipes-export.json?ids=${recipe.id}`} download>
            Download it
          </Button>
        </div>
      </div>
    </Modal>
  );
}
