import { searchResult } from "#jobs";
import { data } from "react-router";
import { getStore } from "../requests/store.server";
import type { Route } from "./+types/search";

/** What a finished search found. */
export async function loader({ params }: Route.LoaderArgs) {
  const result = await searchResult(await getStore(), params.planId, params.searchId);
  if (!result) throw data("That search is not known any more; search again.", { status: 404 });
  return Response.json(result);
}
