// npm start, npm run demo and npm run dev.
import { readFileSync } from "node:fs";
import { parseArgs } from "node:util";
import { setFlagsFromString } from "node:v8";
import { pathToFileURL } from "node:url";
import { ensureBuilt, ensureInstalled, SERVER_BUILD } from "./prepare.mjs";

// By itself a heap may double before it is cleared, in every thread; this is what keeps a large plan under 700 MB.
setFlagsFromString("--heap-growing-percent=40");

const USAGE = `Usage: npm run demo -- [--fresh] [--port N] [--host ADDRESS] [--name NAME …] [--cert FILE --key FILE | --behind-proxy HOPS]
  --fresh          begin the demo plan anew
  --port           default 4517, 0 for any free one
  --host           default 127.0.0.1; anything else opens Tejado to the network, and whoever comes has to sign in
  --name           a name that browsers may call it by, such as plans.example.net; may stand several times
  --cert, --key    PEM files of its own certificate
  --behind-proxy   so many proxies stand before it and say truly who asks; they hold the certificate
  --contact        whom to tell of a hole, such as mailto:security@example.net; stands in /.well-known/security.txt
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
        name: { type: "string", multiple: true, default: [] },
        cert: { type: "string" },
        contact: { type: "string" },
        key: { type: "string" },
        "behind-proxy": { type: "string", default: "0" },
        help: { type: "boolean", default: false },
      },
    });
    const port = Number(values.port);
    if (!Number.isInteger(port) || port < 0 || port > 65535)
      throw new Error(`--port is "${values.port}"; it must be a whole number from 0 to 65535`);
    const behindProxy = Number(values["behind-proxy"]);
    if (!Number.isInteger(behindProxy) || behindProxy < 0 || behindProxy > 9)
      throw new Error(`--behind-proxy is "${values["behind-proxy"]}"; it must be a whole number from 0 to 9`);
    const { cert, key, host, name: names } = values;
    if ((cert === undefined) !== (key === undefined)) throw new Error("--cert and --key belong together");
    const isAny = host === "0.0.0.0" || host === "::";
    if ((isAny || behindProxy > 0) && names.length === 0)
      throw new Error("--name must say by which name browsers call it");
    const tls = cert === undefined ? null : { cert: readFileSync(cert), key: readFileSync(key) };
    const { contact = null } = values;
    if (contact !== null && !/^(mailto:|https:)\S+$/.test(contact))
      throw new Error(`--contact is "${contact}"; it must begin with mailto: or https:`);
    return { ...values, port, names, behindProxy, tls, contact };
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
  const { host, tls, behindProxy } = startOptions;
  if (!["127.0.0.1", "::1", "localhost"].includes(host) && !tls && behindProxy === 0)
    console.log("Passwords cross this network in the clear: use --cert and --key, or a proxy and --behind-proxy.");
} catch (error) {
  if (error.code === "EADDRINUSE") console.error(`Port ${startOptions.port} is taken; name another with --port.`);
  else if (["DataDirectoryBusy", "NoRoom", "NobodyCanSignIn"].includes(error.name)) console.error(error.message);
  else console.error(error);
  process.exit(1);
}
