import { Component, type ReactNode } from 'react';

type OwnTroubleProps = { what: string; children: ReactNode };

/** Keeps what breaks inside to its own place: the rest of the page stands. */
export class OwnTrouble extends Component<OwnTroubleProps, { broken: boolean }> {
  override state = { broken: false };

  static getDerivedStateFromError() {
    return { broken: true };
  }

  override componentDidCatch(error: unknown) {
    console.error(error);
  }

  override render() {
    if (!this.state.broken) return this.props.children;
    return (
      <p role="alert">
        {this.props.what} could not be drawn. The rest of the page stands; the table and the saved files still work.
      </p>
    );
  }
}
