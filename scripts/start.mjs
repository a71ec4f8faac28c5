// npm start, npm run demo and npm run dev.
import { parseArgs } from "node:util";
import { pathToFileURL } from "node:url";
import { ensureBuilt, ensureInstalled, SERVER_BUILD } from "./prepare.mjs";

const USAGE = `Usage: npm run demo -- [--fresh] [--port N] [--host ADDRESS]
  --fresh   begin the demo plan anew
  --port    default 4517, 0 for any free one
  --host    default 127.0.0.1; anything else opens Tejado to the network
  TEJADO_DATA names the data directory (default: data)`;

function options() {
  try {
    const { values } = parseArgs({
      options: {
        demo: { type: "boolean", default: false },
        dev: { type: "boolean", default: false },
        fresh: { type: "boolean", default: false },
        port: { type: "string", default: "4517" },
        host: { type: "string", default: "127.0.0.1" },
        help: { type: "boolean", default: false },
      },
    });
    const port = Number(values.port);
    if (!Number.isInteger(port) || port < 0 || port > 65535)
      throw new Error(`--port is "${values.port}"; it must be a whole number from 0 to 65535`);
    return { ...values, port };
  } catch (error) {
    console.error(`${error.message}\n${USAGE}`);
    process.exit(2);
  }
}

const { dev, help, ...startOptions } = options();
if (help) {
  console.log(USAGE);
  process.exit(0);
}
ensureInstalled();
process.env.NODE_ENV = dev ? "development" : "production";
try {
  let start;
  if (dev) {
    const { createServer } = await import("vite");
    const vite = await createServer({ server: { middlewareMode: true } });
    startOptions.devMiddleware = vite.middlewares;
    ({ start } = await vite.ssrLoadModule("./server/app.ts"));
  } else {
    ensureBuilt();
    ({ start } = await import(pathToFileURL(SERVER_BUILD).href));
  }
  const { url } = await start(startOptions);
  console.log(`Tejado is at ${url}`);
} catch (error) {
  if (error.code === "EADDRINUSE") console.error(`Port ${startOptions.port} is taken; name another with --port.`);
  else if (["DataDirectoryBusy", "NoRoom"].includes(error.name)) console.error(error.message);
  else console.error(error);
  process.exit(1);
}
