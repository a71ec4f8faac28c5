/** Something that lies beside a plan, with its stamp; 304 where whoever asks has that state already. */
export async function besideOf(request: Request, stamp: string, read: () => Promise<unknown>): Promise<Response> {
  const headers = { ETag: `"${stamp}"`, "Cache-Control": "no-cache" };
  if (request.headers.get("If-None-Match") === headers.ETag) return new Response(null, { status: 304, headers });
  return Response.json(await read(), { headers });
}
