import { Component, type ReactNode } from 'react';
import { isAway, untilBack } from '../../ui/away';
import classes from './Sheet.module.css';

/** What breaks on a taster's phone says that nothing is lost; while the bench is away it comes back by itself. */
export class TasterTrouble extends Component<{ children: ReactNode }, { error: unknown }> {
  override state: { error: unknown } = { error: null };

  static getDerivedStateFromError(error: unknown) {
    return { error };
  }

  override componentDidCatch(error: unknown) {
    if (isAway(error)) untilBack(() => window.location.reload());
    else console.error(error);
  }

  override render() {
    const { error } = this.state;
    if (!error) return this.props.children;
    return (
      <main className={classes.page}>
        <h1>{isAway(error) ? 'The bench does not answer' : 'This page broke'}</h1>
        <p role="alert">
          What you scored is kept on this phone. {isAway(error) ? 'The page comes back by itself.' : 'Reload the page.'}
        </p>
      </main>
    );
  }
}
