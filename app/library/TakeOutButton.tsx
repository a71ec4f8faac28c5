import { Button } from "../ui";

/** Takes one model out of the library. */
export function TakeOutButton({ name, onTakeOut }: { name: string; onTakeOut: (name: string) => void }) {
  return (
    <Button className="px-1.5 py-0 text-xs" aria-label={`Take ${name} out`} onClick={() => onTakeOut(name)}>
      Take out
    </Button>
  );
}
