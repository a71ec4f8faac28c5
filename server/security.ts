import { randomBytes, randomUUID } from "node:crypto";
import type { NextFunction, Request, Response } from "express";
import helmet from "helmet";
import { BROWSER_COOKIE, preferencesIn } from "../app/shared/preferences";

/** A fresh nonce for each answer; only scripts that carry it run. */
export function nonce(_request: Request, response: Response, next: NextFunction): void {
  response.locals.nonce = randomBytes(16).toString("base64");
  next();
}

/** Gives each browser a name of its own, by which undo finds what was done there. */
export function browserCookie(request: Request, response: Response, next: NextFunction): void {
  if (!(request.headers.cookie ?? "").includes(`${BROWSER_COOKIE}=`))
    response.cookie(BROWSER_COOKIE, randomUUID(), {
      httpOnly: true,
      sameSite: "strict",
      maxAge: COOKIE_AGE_MS,
      path: "/",
    });
  next();
}
const COOKIE_AGE_MS = 400 * 24 * 3600 * 1000;

function tileOrigin(cookies: string | undefined): string {
  const { tileUrl } = preferencesIn(cookies ?? "");
  return tileUrl === "" ? "'self'" : new URL(tileUrl.replace(/\{[zxy]\}/g, "1")).origin;
}

export const headers = helmet({
  contentSecurityPolicy: {
    useDefaults: false,
    directives: {
      defaultSrc: ["'self'"],
      scriptSrc: ["'self'", (_request, response) => `'nonce-${(response as Response).locals.nonce}'`],
      // React and the map place things with style attributes.
      styleSrc: ["'self'", "'unsafe-inline'"],
      // The user's own tile server, where one is set, and no other.
      imgSrc: ["'self'", "data:", "blob:", (request) => tileOrigin(request.headers.cookie)],
      mediaSrc: ["'self'", "blob:"],
      workerSrc: ["'self'", "blob:"],
      connectSrc: ["'self'"],
      fontSrc: ["'self'"],
      objectSrc: ["'none'"],
      baseUri: ["'none'"],
      formAction: ["'self'"],
      frameAncestors: ["'none'"],
    },
  },
  strictTransportSecurity: false,
  referrerPolicy: { policy: "same-origin" },
  frameguard: { action: "deny" },
});

/** What pages may use of a phone: where it is, its camera, microphone and compass on the pages for crews, and nothing else anywhere. */
export function permissions(request: Request, response: Response, next: NextFunction): void {
  const isForCrews = /^\/(plans\/[^/]+\/(crew|links\/)|field\/)/.test(request.path);
  const own = isForCrews ? "(self)" : "()";
  const asked = FOR_CREWS.map((name) => `${name}=${own}`);
  response.setHeader("Permissions-Policy", [...asked, ...NEVER.map((name) => `${name}=()`)].join(", "));
  next();
}
const FOR_CREWS = [
  "geolocation",
  "camera",
  "microphone",
  "accelerometer",
  "gyroscope",
  "magnetometer",
  "screen-wake-lock",
];
const NEVER = ["payment", "usb", "serial", "bluetooth", "midi", "display-capture", "idle-detection"];

/** Where devices and collectors send what they measured. */
const SAMPLES = /^\/plans\/[^/]+\/watch\/samples$/;

/** This site as the asker reached it, scheme and all: what https serves is not what http does. */
const ownOrigin = ({ protocol, headers: { host } }: Request): string | null => {
  const url = `${protocol}://${host}`;
  return URL.canParse(url) ? new URL(url).origin : null;
};

/** Refuses every changing request that another origin sent. */
export function sameOrigin(request: Request, response: Response, next: NextFunction): void {
  if (request.method === "GET" || request.method === "HEAD") return next();
  // Who shows a token of his own rides on nobody's cookies: no page can send one that it does not know.
  if (SAMPLES.test(request.path) && request.headers.authorization !== undefined) return next();
  const site = request.headers["sec-fetch-site"];
  const { origin } = request.headers;
  const isOwn = origin !== undefined && URL.canParse(origin) && new URL(origin).origin === ownOrigin(request);
  if (origin === undefined ? site === "same-origin" : isOwn) return next();
  response.status(403).type("text").send("Changes are taken only from Tejado's own pages.");
}

/**
 * Brings an address to its one spelling, for every check and route after it: signs that are escaped needlessly stand as themselves, and no
 * slash stands twice. Refuses one that no text can be made of, or that holds a NUL: no page and no row is called so.
 */
export function plainAddress(request: Request, response: Response, next: NextFunction): void {
  const plain = plainUrl(request.originalUrl);
  if (plain !== null) {
    request.url = request.originalUrl = plain;
    return next();
  }
  response.status(400).type("text").send("The address holds a sign that no address has.");
}

function plainUrl(url: string): string | null {
  const [path = "", ...queries] = url.split("?");
  const query = queries.length > 0 ? `?${queries.join("?")}` : "";
  try {
    if (decodeURIComponent(url.replace(/\+/g, " ")).includes("\0")) return null;
    const segments = path.split("/").map((segment) => encodeURIComponent(decodeURIComponent(segment)));
    return (
      segments
        .join("/")
        .replace(/\/{2,}/g, "/")
        .replace(/%(3A|40|24|2B|2C|3B|3D)/g, decodeURIComponent) + query
    );
  } catch {
    // An escape that stands for no character.
    return null;
  }
}

/** Says which header a proxy before this Tejado leaves out: without it no change can be told from one that another site sends. */
export function namedProxy(request: Request, response: Response, next: NextFunction): void {
  if (request.headers["x-forwarded-proto"] !== undefined || request.path === "/health") return next();
  response
    .status(400)
    .type("text")
    .send(
      "This Tejado was started with --behind-proxy, and the proxy does not say how it was reached: have it set X-Forwarded-Proto (http or https) and X-Forwarded-For.",
    );
}

/** Refuses bodies that do not say how long they are: each address takes so many bytes, and Node holds a sender to what he said. */
export function statedLength(request: Request, response: Response, next: NextFunction): void {
  if (request.method === "GET" || request.method === "HEAD" || request.headers["content-length"] !== undefined)
    return next();
  response.status(411).type("text").send("A request that changes something must say how long it is.");
}
