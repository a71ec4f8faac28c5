import { useContext, type ReactNode } from "react";
import {
  isRouteErrorResponse,
  Links,
  Meta,
  Outlet,
  Scripts,
  ScrollRestoration,
  useRouteLoaderData,
} from "react-router";
import { Toaster } from "sonner";
import type { Route } from "./+types/root";
import "./app.css";
import { gate } from "./access/gate.server";
import { NonceContext } from "./data/nonce";
import { DEFAULT_PREFERENCES, readPreferences } from "./data/preferences";
import { Button } from "./ui";
import { ConflictDialog } from "./keep/ConflictDialog";

export function loader({ request }: Route.LoaderArgs) {
  return { preferences: readPreferences(request) };
}

export const middleware: Route.MiddlewareFunction[] = [gate];

export const meta: Route.MetaFunction = () => [{ title: "Tejado" }];

export function links() {
  return [{ rel: "icon", type: "image/svg+xml", href: "/mark.svg" }];
}

/** Chooses the theme before anything is drawn; "system" is only known in the browser. */
const themeScript = (theme: string) =>
  `document.documentElement.dataset.theme = ${JSON.stringify(theme)} === "system" ? (matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light") : ${JSON.stringify(theme)};`;

export function Layout({ children }: { children: ReactNode }) {
  const nonce = useContext(NonceContext);
  const preferences = useRouteLoaderData<typeof loader>("root")?.preferences ?? DEFAULT_PREFERENCES;
  return (
    <html
      lang="en"
      suppressHydrationWarning
      data-theme={preferences.theme === "system" ? undefined : preferences.theme}
    >
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <script
          nonce={nonce}
          suppressHydrationWarning
          dangerouslySetInnerHTML={{ __html: themeScript(preferences.theme) }}
        />
        <Meta />
        <Links />
      </head>
      <body>
        {children}
        <ConflictDialog />
        <Toaster
          position="bottom-center"
          toastOptions={{ style: { background: "var(--panel)", color: "var(--ink)", borderColor: "var(--rule)" } }}
        />
        <ScrollRestoration nonce={nonce} />
        <Scripts nonce={nonce} />
      </body>
    </html>
  );
}

export default function App() {
  return <Outlet />;
}

/** What a page that cannot be shown is headed by, by the answer's status. */
const HEADINGS: Readonly<Record<number, string>> = { 403: "Not for your role", 404: "Not here" };

/** In place of a page that cannot be shown: what was refused in its own words, what failed in ours. What was in hand is in hand again after a reload. */
export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  const refused = isRouteErrorResponse(error) && error.status < 500 ? error : null;
  return (
    <main className="mx-auto max-w-xl p-8">
      <title>Tejado</title>
      <h1 className="mb-2 text-xl font-semibold">{HEADINGS[refused?.status ?? 0] ?? "Something went wrong"}</h1>
      <p>
        {refused
          ? String(refused.data || refused.statusText)
          : "This page could not be made. Nothing that was kept is lost, and what you had in hand is there again when the page is."}
      </p>
      <p className="mt-4 flex items-center gap-3">
        {!refused && <Button onClick={() => window.location.reload()}>Try again</Button>}
        <a className="text-clay underline" href="/">
          All plans
        </a>
      </p>
    </main>
  );
}
