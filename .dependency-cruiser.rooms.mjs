import all from "./.dependency-cruiser.mjs";

/** Folders of app/ build on each other one way, from what all share up to routes. Tests may look anywhere, so they are left out. */
export default {
  forbidden: [
    {
      name: "rooms-form-no-circle",
      severity: "error",
      scope: "folder",
      from: { path: "^app/" },
      to: { circular: true },
    },
  ],
  options: { ...all.options, exclude: { path: "^(build|\\.react-router)|\\.test\\.tsx?$" } },
};
