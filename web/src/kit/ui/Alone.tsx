import { Component, type ReactNode } from "react";

interface Props {
  what: string; // that fails, in the words of the page
  className?: string;
  children: ReactNode;
}

const RELOADED = "parhelion-reloaded-for";
const isMissing = (error: Error) =>
  /dynamically imported module|Importing a module|error loading/i.test(error.message);

/**
 * What is within fails alone: the rest of the page goes on, and there is a way on from here. A part of the
 * program that is no longer served, since a newer one is, is fetched anew by one reload.
 */
export class Alone extends Component<Props, { error: Error | null }> {
  state = { error: null as Error | null };

  static getDerivedStateFromError(error: Error) {
    return { error };
  }

  componentDidCatch(error: Error) {
    if (!isMissing(error) || sessionStorage.getItem(RELOADED) === error.message) return;
    sessionStorage.setItem(RELOADED, error.message);
    window.location.reload();
  }

  render() {
    const { error } = this.state;
    const { what, className, children } = this.props;
    if (!error) return children;
    return (
      <section role="alert" className={className}>
        <h2 className="m-0 mb-1 text-[18px]">{what} cannot be shown</h2>
        <p className="m-0 mb-2">
          {isMissing(error)
            ? "This part of the program did not arrive: the server was away, or a newer one runs there."
            : "Something in it went wrong that should not have. Your boat is as you left it."}
        </p>
        <p className="mt-0 mb-3 text-[13px] text-muted">{error.message}</p>
        <div className="flex gap-2">
          <button
            type="button"
            className="btn"
            data-main
            onClick={() => (isMissing(error) ? window.location.reload() : this.setState({ error: null }))}
          >
            Try again
          </button>
        </div>
      </section>
    );
  }
}
