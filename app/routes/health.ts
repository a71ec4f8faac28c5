import { getStore } from "../requests/store.server";

export async function loader() {
  const store = await getStore();
  await store.db.query("SELECT 1");
  return Response.json({ ok: true });
}
