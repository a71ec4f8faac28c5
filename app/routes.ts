import { index, route, type RouteConfig } from "@react-router/dev/routes";

export default [
  index("routes/home.tsx"),
  route("health", "routes/health.ts"),
  route("preferences", "routes/preferences.ts"),
  route("plans/:planId/profiles", "routes/profiles.ts"),
  route("plans/:planId/relief/:z/:x/:y", "routes/relief.ts"),
  route("plans/:planId/changes", "routes/changes.ts"),
  route("plans/:planId/places", "routes/places.ts"),
  route("plans/:planId/terrain", "routes/terrain.ts"),
  route("plans/:planId/jobs/:jobId", "routes/job.ts"),
  route("plans/:planId/noise", "routes/noise.tsx"),
  route("plans/:planId/import", "routes/import.tsx"),
  route("plans/:planId/logbook", "routes/logbook.tsx"),
  route("plans/:planId/settings", "routes/settings.tsx"),
  route("plans/:planId/links/:linkId/sheet.pdf", "routes/sheetPdf.ts"),
  route("plans/:planId/links/:linkId/sheet", "routes/sheet.tsx"),
  route("plans/:planId/links/:linkId/proof", "routes/proof.tsx"),
  route("plans/:planId/:stage?", "routes/desk.tsx"),
] satisfies RouteConfig;
