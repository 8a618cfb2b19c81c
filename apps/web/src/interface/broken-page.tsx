import { Link, useRouteError } from 'react-router';
import { Brand } from './brand.tsx';

/** What is shown instead of a blank page. */
export function BrokenPage({ lost = false }: { lost?: boolean }): React.JSX.Element {
  const error = useRouteError();
  return (
    <main className="grid h-full place-items-center p-8">
      <div className="max-w-md space-y-4 text-center">
        <Brand />
        <h1 className="text-lg font-semibold">{lost ? 'There is nothing at this address' : 'This view broke'}</h1>
        <p className="text-soft">
          {lost
            ? 'It may be an old link.'
            : 'What you made is saved. Load the page again; if it breaks again, the sentence below helps to find out why.'}
        </p>
        {!lost && error instanceof Error && (
          <pre className="figures overflow-auto rounded bg-cloth-2 p-3 text-left text-xs whitespace-pre-wrap">{error.message}</pre>
        )}
        <p className="flex justify-center gap-4">
          <button className="text-spruce underline" onClick={() => location.reload()}>
            Load again
          </button>
          <Link className="text-spruce underline" to="/" reloadDocument>
            All projects
          </Link>
        </p>
      </div>
    </main>
  );
}
