import { readdirSync, readFileSync } from "node:fs";
import { expect, test } from "@jest/globals";

test("every folder that holds tests is one in which they are looked for", () => {
  const searched = /<rootDir>\/\{(.*?)\}/.exec(readFileSync("jest.config.mjs", "utf8"))![1]!.split(",");
  const holds = (folder: string) =>
    readdirSync(folder, { recursive: true, encoding: "utf8" }).some((name) => /\.test\.tsx?$/.test(name));
  const folders = readdirSync(".", { withFileTypes: true })
    .filter((entry) => entry.isDirectory() && !/^(\.|node_modules$|build$|data$|bench$)/.test(entry.name))
    .map(({ name }) => name);
  expect(folders.filter((name) => holds(name) && !searched.includes(name))).toEqual([]);
});
