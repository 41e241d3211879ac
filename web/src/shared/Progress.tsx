/** How far something is that takes a while. */
export function Progress({ say, done, of }: { say: string; done: number; of: number }) {
  const percent = of > 0 ? Math.min(100, Math.round((100 * done) / of)) : 0;
  return (
    <div role="status">
      <p>
        {say}: {percent}&nbsp;%
      </p>
      <progress className="h-3 w-full max-w-md accent-yolk" max={100} value={percent} aria-label={say} />
    </div>
  );
}
