export default {
  testEnvironment: "node",
  extensionsToTreatAsEsm: [".ts", ".tsx"],
  transform: {
    "^.+\\.tsx?$": [
      "@swc/jest",
      {
        jsc: {
          parser: { syntax: "typescript", tsx: true },
          target: "es2022",
          transform: { react: { runtime: "automatic" } },
        },
        module: { type: "es6" },
      },
    ],
  },
  testMatch: ["<rootDir>/{core,formats,store,jobs,demo,app,server,scripts}/**/*.test.ts"],
  testTimeout: 60_000,
  moduleFileExtensions: ["ts", "tsx", "js", "mjs", "json"],
};
