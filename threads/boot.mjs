// The first step of a worker or a child process that is run from source: from here on TypeScript is read as it stands. The first
// argument names the script.
import { register } from "tsx/esm/api";

register();
const script = await import(process.argv[2]);
export default script.default;
