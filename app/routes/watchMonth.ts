import type { Route } from "./+types/watchMonth";
export async function loader(_: Route.LoaderArgs) {
  return new Response("", { status: 404 });
}
