import { Component, type ErrorInfo, type ReactNode } from 'react';
import { saveText } from '../files.ts';
import { craftTextNow } from '../store/selectors.ts';
import { store } from '../store/store.ts';
import { stepBack, undone } from '../store/timeline.ts';
import { Notice } from './Notice.tsx';
import { TextButton } from './TextButton.tsx';

interface Props {
  /** What is shown in it, as it is said in a sentence. */
  readonly what: string;
  /** What it shows; something else is tried anew. */
  readonly of?: unknown;
  readonly children: ReactNode;
}

interface State {
  readonly error: Error | null;
  readonly stack: string;
}

/**
 * Keeps a fault of ours to the region in which it happened: the rest stays usable, the last change can be taken back, and
 * what happened can be saved as a report.
 */
export class Boundary extends Component<Props, State> {
  override state: State = { error: null, stack: '' };

  static getDerivedStateFromError(error: unknown): Partial<State> {
    return { error: error instanceof Error ? error : new Error(String(error)) };
  }

  override componentDidCatch(_: unknown, info: ErrorInfo): void {
    this.setState({ stack: info.componentStack ?? '' });
  }

  override componentDidUpdate(before: Props): void {
    if (this.state.error && before.of !== this.props.of) this.setState({ error: null, stack: '' });
  }

  private readonly again = () => this.setState({ error: null, stack: '' });

  private readonly back = () => {
    store.dispatch(undone());
    this.again();
  };

  private readonly report = () => {
    const { error, stack } = this.state;
    const report = {
      format: 'wanderweg-report',
      at: new Date().toISOString(),
      what: this.props.what,
      where: location.pathname,
      message: error?.message,
      stack: error?.stack,
      components: stack,
      craft: craftTextNow(store.getState()),
    };
    saveText('wanderweg-report.json', 'application/json', `${JSON.stringify(report, null, 2)}\n`);
  };

  override render(): ReactNode {
    const { error } = this.state;
    if (!error) return this.props.children;
    const step = stepBack(store.getState());
    return (
      <Notice tone="grave" className="m-3 max-w-[660px]">
        <p>
          <b className="font-semibold">A fault of ours: {this.props.what} cannot be shown.</b> Your craft is
          kept as it is, and everything else can be used. <span className="text-soft">({error.message})</span>
        </p>
        <p className="mt-1.5 flex flex-wrap gap-4">
          <TextButton onClick={this.again}>Try again</TextButton>
          {step && <TextButton onClick={this.back}>Take back the last change of {step}</TextButton>}
          <TextButton onClick={this.report}>Save a report</TextButton>
          <a href="/craft" className="underline decoration-dotted underline-offset-2">
            All craft
          </a>
        </p>
      </Notice>
    );
  }
}
