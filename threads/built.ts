import { pathToFileURL } from "node:url";
import { useBuiltThreads } from "./start";

/** Before each test file: threads start from the build where the whole check has just made one, which is many times faster. */
const folder = process.env.TEJADO_TEST_THREADS;
if (folder) useBuiltThreads(pathToFileURL(`${folder}/`));
