import { createServer, type IncomingMessage, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import ipaddr from "ipaddr.js";
import { z } from "zod";
import type { BoxedDevice } from "./boxes";

/**
 * The stand-in for a bench: devices in their boxes, a switch to plug them into, and a laptop. They behave as such devices do: all leave
 * their boxes at their maker's address, two with one address answer for each other, the laptop reaches only what lies in its network,
 * settings hold from the next restart, and a client of another version does not see its access point.
 *
 *   GET  /boxes                        [{serial, radioId, model, password}]
 *   GET  /bench                        {plugged: [serial, …], collisions}: how often two answered at one address
 *   POST /plug /unplug {serial}        POST /laptop {address: "192.168.1.2/24"}
 *   GET  /at/ADDRESS/status            {serial, firmware, settings, isEncrypted}
 *   POST /at/ADDRESS/settings {…}      POST /at/ADDRESS/firmware {version}     POST /at/ADDRESS/restart
 *   GET  /at/ADDRESS/pair              {joined, …}
 *
 * Requests under /at must carry the device's password in the header X-Password.
 */
export interface PracticeBench {
  url: string;
  /** How often two devices answered at one address. */
  collisions: () => number;
  /** What a device was set to, by its serial number: what its own pages would show. */
  inside: (serial: string) => Readonly<Device> | undefined;
  stop: () => Promise<void>;
}

const value = z.union([z.string().max(200), z.number(), z.null()]);
type Settings = Record<string, z.infer<typeof value>>;

export interface Device {
  box: BoxedDevice;
  firmware: string;
  password: string;
  key: string;
  settings: Settings;
  /** Without its prefix. */
  address: string;
  isPlugged: boolean;
  /** Written, and in force from the next restart. */
  written: Settings;
}

interface Answer {
  status: number;
  body: unknown;
}
const BOX_PASSWORD = "as-delivered";
const MOST_BODY_BYTES = 20_000;
const refused = (status: number, error: string): Answer => ({ status, body: { error } });
const fine: Answer = { status: 200, body: { ok: true } };
const serialSchema = z.object({ serial: z.string() });
const laptopSchema = z.object({ address: z.string() });
const firmwareSchema = z.object({ version: z.string().min(1).max(60) });
const settingsSchema = z.record(z.string().max(60), value);

const hostOf = (address: string) => address.split("/")[0]!;

/** Puts boxes on a bench of their own on loopback. `deadChains` names radios one of whose chains is dead. */
export async function startPracticeBench(
  boxes: readonly BoxedDevice[],
  { deadChains = new Set<string>() }: { deadChains?: ReadonlySet<string> } = {},
): Promise<PracticeBench> {
  const devices = new Map(boxes.map((box) => [box.serial, unboxed(box)]));
  let laptop: [ipaddr.IPv4 | ipaddr.IPv6, number] | null = null;
  let collisions = 0;

  const plugged = () => [...devices.values()].filter(({ isPlugged }) => isPlugged);
  /** The device that answers at an address, or why none does. */
  const reached = (address: string, password: string | undefined): Device | Answer => {
    if (!ipaddr.isValid(address)) return refused(400, `"${address}" is no address`);
    const parsed = ipaddr.parse(address);
    if (!laptop || laptop[0].kind() !== parsed.kind() || !parsed.match(laptop[0], laptop[1]))
      return refused(504, `the laptop does not reach ${address}: it stands in another network`);
    const there = plugged().filter((device) => device.address === parsed.toString());
    if (there.length > 1) {
      collisions++;
      return refused(409, `two devices answer at ${address}: unplug all but one`);
    }
    const [device] = there;
    if (!device) return refused(504, `nothing answers at ${address}`);
    return device.password === password ? device : refused(401, `${address} wants another password`);
  };
  const paired = (device: Device): unknown => {
    const others = plugged().filter((other) => other !== device);
    const heard = others.filter(({ firmware }) => firmware === device.firmware);
    const mode = String(device.settings.mode ?? "");
    const leads = (other: Device) =>
      mode === "client" ? other.settings.mode === "access point" : other.settings.mode === "bridge near end";
    const peer = heard.find(
      (other) => leads(other) && other.settings.network === device.settings.network && other.key === device.key,
    );
    if (!peer || device.box.hearsAtMostDbm === null)
      return { joined: false, hears: heard.map(({ settings }) => settings.network).filter(Boolean) };
    // Drawn from the serial number: near field and antennas that look past each other take some.
    const drawn = Number.parseInt(device.box.serial.slice(2), 36);
    const strongest = device.box.hearsAtMostDbm - 4 - (drawn % 12);
    return {
      joined: true,
      peer: peer.settings.name ?? peer.box.serial,
      levelsDbm: Array.from({ length: device.box.chains }, (_, chain) =>
        chain === 1 && deadChains.has(device.box.radioId) ? strongest - 24 : strongest - chain * ((drawn >> 4) % 3),
      ),
      mbps: device.box.mbps,
    };
  };
  const plugging = (body: unknown, isPlugged: boolean): Answer => {
    const asked = serialSchema.safeParse(body);
    const device = asked.success ? devices.get(asked.data.serial) : undefined;
    if (!device) return refused(404, "serial: no such box");
    device.isPlugged = isPlugged;
    return fine;
  };
  const answer = (method: string, path: string, password: string | undefined, body: unknown): Answer => {
    const [, address, what] = /^\/at\/([^/]+)\/(\w+)$/.exec(path) ?? [];
    if (address !== undefined) {
      const device = reached(decodeURIComponent(address), password);
      if ("status" in device) return device;
      return ofDevice(device, `${method} ${what}`, body, paired);
    }
    switch (`${method} ${path}`) {
      case "GET /boxes":
        return {
          status: 200,
          body: boxes.map(({ serial, radioId, model }) => ({ serial, radioId, model, password: BOX_PASSWORD })),
        };
      case "GET /bench":
        return { status: 200, body: { plugged: plugged().map(({ box }) => box.serial), collisions } };
      case "POST /plug":
        return plugging(body, true);
      case "POST /unplug":
        return plugging(body, false);
      case "POST /laptop": {
        const asked = laptopSchema.safeParse(body);
        if (!asked.success || !ipaddr.isValidCIDR(asked.data.address))
          return refused(400, "address: must be an address with its prefix length");
        laptop = ipaddr.parseCIDR(asked.data.address);
        return fine;
      }
      default:
        return refused(404, `there is no ${method} ${path} here`);
    }
  };
  const server: Server = createServer((request, response) => {
    const send = ({ status, body }: Answer) =>
      response.writeHead(status, { "Content-Type": "application/json" }).end(JSON.stringify(body));
    const password = request.headers["x-password"];
    bodyOf(request)
      .then((body) => send(answer(request.method ?? "GET", request.url ?? "/", String(password ?? ""), body)))
      .catch((error: Error) => send(refused(400, error.message)));
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const { port } = server.address() as AddressInfo;
  return {
    url: `http://127.0.0.1:${port}`,
    collisions: () => collisions,
    inside: (serial) => devices.get(serial),
    stop: () =>
      new Promise((resolve) => {
        server.closeAllConnections();
        server.close(() => resolve());
      }),
  };
}

function unboxed(box: BoxedDevice): Device {
  return {
    box,
    firmware: box.firmware,
    password: BOX_PASSWORD,
    key: "",
    settings: {},
    address: hostOf(box.boxAddress),
    isPlugged: false,
    written: {},
  };
}

function ofDevice(device: Device, what: string, body: unknown, paired: (device: Device) => unknown): Answer {
  switch (what) {
    case "GET status":
      return {
        status: 200,
        body: {
          serial: device.box.serial,
          firmware: device.firmware,
          settings: device.settings,
          isEncrypted: device.key !== "",
        },
      };
    case "GET pair":
      return { status: 200, body: paired(device) };
    case "POST firmware": {
      const asked = firmwareSchema.safeParse(body);
      if (!asked.success) return refused(400, "version: is missing");
      device.written.firmware = asked.data.version;
      return fine;
    }
    case "POST settings": {
      const asked = settingsSchema.safeParse(body);
      if (!asked.success) return refused(400, asked.error.issues[0]!.message);
      const { password, key, ...settings } = asked.data;
      if (typeof settings.address === "string" && !ipaddr.isValid(hostOf(settings.address)))
        return refused(400, `address: "${settings.address}" is no address`);
      // Passwords and keys hold at once, as they do on such devices.
      if (typeof password === "string") device.password = password;
      if (typeof key === "string") device.key = key;
      Object.assign(device.written, settings);
      return fine;
    }
    case "POST restart": {
      const { firmware, ...settings } = device.written;
      if (typeof firmware === "string") device.firmware = firmware;
      Object.assign(device.settings, settings);
      device.written = {};
      if (typeof device.settings.address === "string")
        device.address = ipaddr.parse(hostOf(device.settings.address)).toString();
      return fine;
    }
    default:
      return refused(404, `a device has no ${what}`);
  }
}

async function bodyOf(request: IncomingMessage): Promise<unknown> {
  const parts: Buffer[] = [];
  let length = 0;
  for await (const part of request) {
    parts.push(part as Buffer);
    length += (part as Buffer).length;
    if (length > MOST_BODY_BYTES) throw new Error(`a request may hold ${MOST_BODY_BYTES} bytes`);
  }
  if (length === 0) return {};
  try {
    return JSON.parse(Buffer.concat(parts).toString("utf8")) as unknown;
  } catch {
    throw new Error("the request is no JSON");
  }
}
