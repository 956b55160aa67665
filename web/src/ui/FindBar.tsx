import { SegmentedControl, Select, TextInput } from '@mantine/core';
import classes from './FindBar.module.css';
import type { Listing } from './listing';

type FindBarProps<S extends string> = {
  /** "trials" or "brews". */
  what: string;
  placeholder: string;
  shown: readonly { value: S; label: string }[];
  tags: string[];
  listing: Listing<S>;
  onListing: (patch: Partial<Listing<S>>) => void;
};

/** Words, kind, tag and order of a long list. */
export function FindBar<S extends string>({ what, placeholder, shown, tags, listing, onListing }: FindBarProps<S>) {
  return (
    <div className={classes.bar} role="search">
      <TextInput
        aria-label={`Find ${what}`}
        placeholder={placeholder}
        value={listing.text}
        onChange={(e) => onListing({ text: e.currentTarget.value })}
      />
      <SegmentedControl
        aria-label={`Which ${what}`}
        data={[...shown]}
        value={listing.shown}
        onChange={(value) => onListing({ shown: value })}
      />
      {(tags.length > 0 || listing.tag) && (
        <Select
          aria-label="Tag"
          placeholder="Any tag"
          clearable
          clearButtonProps={{ 'aria-label': 'Any tag' }}
          value={listing.tag || null}
          onChange={(tag) => onListing({ tag: tag ?? '' })}
          data={tags}
        />
      )}
      <Select
        aria-label="Order"
        allowDeselect={false}
        value={listing.order}
        onChange={(order) => onListing({ order: order as Listing<S>['order'] })}
        data={[
          { value: 'newest', label: 'Newest first' },
          { value: 'oldest', label: 'Oldest first' },
        ]}
      />
    </div>
  );
}
