export default {
  testEnvironment: "node",
  globalSetup: "<rootDir>/store/testing/setUp.ts",
  setupFiles: ["<rootDir>/threads/built.ts"],
  globalTeardown: "<rootDir>/store/testing/takeDown.ts",
  extensionsToTreatAsEsm: [".ts", ".tsx"],
  transform: {
    "^.+\\.tsx?$": [
      "@swc/jest",
      {
        jsc: {
          parser: { syntax: "typescript", tsx: true },
          target: "es2022",
          experimental: { keepImportAttributes: true },
          transform: { react: { runtime: "automatic" } },
        },
        module: { type: "es6" },
      },
    ],
  },
  testMatch: [
    "<rootDir>/{core,formats,wire,ground,threads,store,accounts,engine,pool,monitoring,jobs,simulators,staging,demo,app,field,server,scripts}/**/*.test.ts",
  ],
  // Copies of the code that hold small changes (npm run mutants).
  modulePathIgnorePatterns: ["<rootDir>/.mutants"],
  // One process for each core; the usual choice leaves one core idle, which on two is half the machine.
  maxWorkers: "100%",
  testTimeout: 180_000,
  moduleFileExtensions: ["ts", "tsx", "js", "mjs", "json"],
};
