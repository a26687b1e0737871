import { Component, type ReactNode } from 'react';
import { Link, useLocation } from 'react-router';
import styled from 'styled-components';

const Page = styled.main`
  display: grid;
  gap: 12px;
  place-content: center;
  height: 100%;
  padding: 24px;
  max-width: 60ch;
  margin: 0 auto;
`;

/** The page for what went wrong: what was kept, and the way back. */
function Trouble({ message }: { message: string }) {
  return (
    <Page>
      <h1>{message}</h1>
      <p>
        The record is on the server and nothing in it was lost. The aircraft is watched there, whether this page is open
        or not.
      </p>
      <Link to="/">Back to Today</Link>
    </Page>
  );
}

export const NoSuchPage = () => <Trouble message="There is no such page." />;

/** Shows what went wrong on a page in its place, until somebody goes to another one. */
export function UntilTrouble({ children }: { children: ReactNode }) {
  const { key } = useLocation();
  return <Boundary place={key}>{children}</Boundary>;
}

interface BoundaryProps {
  place: string;
  children: ReactNode;
}

class Boundary extends Component<BoundaryProps, { error: unknown; at: string | null }> {
  override state = { error: null as unknown, at: null as string | null };

  static getDerivedStateFromError(error: unknown) {
    return { error, at: null };
  }

  override componentDidCatch(): void {
    this.setState({ at: this.props.place });
  }

  override render(): ReactNode {
    const { error, at } = this.state;
    if (error === null || (at !== null && at !== this.props.place)) return this.props.children;
    return <Trouble message={error instanceof Error ? error.message : 'Something went wrong on this page.'} />;
  }
}
