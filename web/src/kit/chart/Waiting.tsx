/** A picture that is not there: loading as a quiet skeleton, or what went wrong with a way to retry. */
export function Waiting({ error, retry, what }: { error: Error | null; retry: () => void; what: string }) {
  if (error)
    return (
      <div
        className="grid h-full place-content-center justify-items-center gap-3 p-6 text-center"
        role="alert"
      >
        <p className="m-0 max-w-[46ch]">
          <b>{what} could not be computed.</b> {error.message}
        </p>
        <button type="button" className="btn" onClick={retry}>
          Try again
        </button>
      </div>
    );
  return (
    <div className="h-full p-6" role="status" aria-label={`Computing ${what.toLowerCase()}`}>
      <div className="h-full animate-pulse rounded bg-hairline opacity-40" />
    </div>
  );
}
