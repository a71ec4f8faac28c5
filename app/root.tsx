import { QueryClientProvider } from "@tanstack/react-query";
import { useContext, useState, type ReactNode } from "react";
import { Links, Meta, Outlet, Scripts, ScrollRestoration, useRouteLoaderData } from "react-router";
import { Toaster } from "sonner";
import type { Route } from "./+types/root";
import "./app.css";
import { questions } from "./ask/useAnswer";
import { gate } from "./access/gate.server";
import { NonceContext } from "./requests/nonce";
import { DEFAULT_PREFERENCES, readPreferences } from "./shared/preferences";
import { BrokenPage } from "./frame/BrokenPage";
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
  const [client] = useState(questions);
  return (
    <QueryClientProvider client={client}>
      <Outlet />
    </QueryClientProvider>
  );
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  return <BrokenPage error={error} />;
}
