// A child process's first step: from here on TypeScript is read as it stands. The first argument names the script.
import { register } from "tsx/esm/api";

register();
await import(process.argv[2]);
