import { searchResult } from "#jobs";
import { data } from "react-router";
import type { Route } from "./+types/search";

/** What a finished search found. */
export function loader({ params }: Route.LoaderArgs) {
  const result = searchResult(params.planId, params.searchId);
  if (!result) throw data("That search is not known any more; search again.", { status: 404 });
  return Response.json(result);
}
