import type { DeviceSettings } from "#core/staging";

/** Where a device is spoken to, and with which password. */
export interface Access {
  /** Without a prefix: 192.168.1.20. */
  address: string;
  password: string;
}

export interface DeviceStatus {
  serial: string;
  firmware: string;
  settings: Partial<DeviceSettings>;
  /** Whether its traffic is encrypted. */
  isEncrypted: boolean;
}

/** What a device hears of the one that it should join. */
export type PairTry =
  { joined: true; peer: string; levelsDbm: number[]; mbps: number } | { joined: false; hears: string[] };

/** What is written into a device; what is left out stays. */
export interface DeviceChange extends Partial<DeviceSettings> {
  password?: string;
  /** Of its network. */
  key?: string;
}

/**
 * A bench with devices on it. Whatever stands behind it, one thing holds: two devices that are plugged in with one address answer for each
 * other, so nothing but `plug` and `unplug` says which one is spoken to.
 */
export interface DeviceAdapter {
  /** The box with the device for a radio, or null if the bench has no such box. */
  boxOf(radioId: string): Promise<{ serial: string; password: string } | null>;
  plug(serial: string): Promise<void>;
  unplug(serial: string): Promise<void>;
  /** Gives the laptop an address with its prefix length: it reaches what lies in that network alone. */
  laptop(address: string): Promise<void>;
  /** Null where nothing answers there, or not to that password. */
  status(at: Access): Promise<DeviceStatus | null>;
  update(at: Access, firmware: string): Promise<void>;
  /** Takes effect with the next restart. */
  write(at: Access, change: DeviceChange): Promise<void>;
  restart(at: Access): Promise<void>;
  tryPair(at: Access): Promise<PairTry>;
}

/** What a bench refused, in words. */
export class BenchError extends Error {
  override name = "BenchError";
}
