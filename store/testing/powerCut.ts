import { spawnSync } from "node:child_process";
import { mkdirSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { acknowledgedUntil, busyFor, lostOf, type Survived } from "./kills";

const IMAGE_SIZE = "400M";
/** Ends a file system at once, without writing back what it holds, as a power cut would: ext4's own request for tests. */
const CUT = 'open(my $dir, "<", $ARGV[0]) or die; my $flags = pack("L", 2); ioctl($dir, 0x8004587d, $flags) or die $!';

const run = (program: string, ...given: string[]) => spawnSync(program, given, { stdio: "ignore" }).status === 0;

/** True if this process may make and mount the file system that a cut needs. */
export function mayCutPower(): boolean {
  const folder = mkdtempSync(join(tmpdir(), "tejado-cut-probe-"));
  const [image, mount] = [join(folder, "image"), join(folder, "mount")];
  mkdirSync(mount);
  const may =
    run("perl", "-e", "exit 0") &&
    run("truncate", "-s", IMAGE_SIZE, image) &&
    run("mkfs.ext4", "-q", "-F", image) &&
    run("mount", "-o", "loop", image, mount);
  if (may) run("umount", mount);
  rmSync(folder, { recursive: true, force: true });
  return may;
}

/**
 * Cuts the power `times` times under the writers, on an ext4 file system in a file, and looks after each cut what is there.
 * Null if this process may not mount one.
 */
export async function cutPower(times: number, random: () => number): Promise<Survived | null> {
  const folder = mkdtempSync(join(tmpdir(), "tejado-cut-"));
  const [image, mount] = [join(folder, "image"), join(folder, "mount")];
  mkdirSync(mount);
  const mounted = () => run("mount", "-o", "loop", image, mount);
  try {
    if (!run("truncate", "-s", IMAGE_SIZE, image) || !run("mkfs.ext4", "-q", "-F", image) || !mounted()) return null;
    const directory = join(mount, "data");
    mkdirSync(directory);
    if (!run("perl", "-e", "exit 0")) return null;
    const all: string[] = [];
    const survived: Survived = { acknowledged: 0, lost: 0, failedStarts: 0 };
    for (let cut = 0; cut < times; cut++) {
      const ops = await acknowledgedUntil(directory, cut, async (kill, count) => {
        await busyFor(count, random);
        if (!run("perl", "-e", CUT, mount)) throw new Error("the file system could not be cut");
        kill();
      });
      all.push(...ops);
      run("umount", "-l", mount);
      if (!mounted()) throw new Error("the file system did not mount again");
      const lost = await lostOf(directory, all);
      if (lost === null) survived.failedStarts++;
      else survived.lost = Math.max(survived.lost, lost);
    }
    return { ...survived, acknowledged: all.length };
  } finally {
    run("umount", "-l", mount);
    rmSync(folder, { recursive: true, force: true });
  }
}
