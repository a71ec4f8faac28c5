import { AlertDialog, ToggleGroup } from "radix-ui";
import { useEffect, useState } from "react";
import { Button, buttonClass } from "../ui";
import type { ConflictWire } from "./answer";
import { answerWhose, type WhoseQuestion } from "./askWhose";
import { canKeepMine, ConflictRow } from "./ConflictRow";

const CHOICE = "px-2 py-0.5 text-xs data-[state=on]:bg-clay data-[state=on]:text-on-clay disabled:opacity-40";

/** Asks whose values to take where two changed the same fields; what was typed here waits until it is answered. */
export function ConflictDialog() {
  const [question, setQuestion] = useState<WhoseQuestion | null>(null);
  const [mine, setMine] = useState<readonly ConflictWire[]>([]);
  useEffect(() => {
    answerWhose((next) => {
      setMine([]);
      setQuestion(next);
    });
    return () => answerWhose(null);
  }, []);
  const end = (answer: ConflictWire[] | null) => {
    question?.answer(answer);
    setQuestion(null);
  };
  return (
    <AlertDialog.Root open={question !== null} onOpenChange={(open) => !open && end(null)}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
        <AlertDialog.Content className="fixed top-1/4 left-1/2 z-50 w-130 max-w-[94vw] -translate-x-1/2 rounded border border-rule bg-panel p-4">
          <AlertDialog.Title className="font-semibold">Somebody has changed this meanwhile</AlertDialog.Title>
          <AlertDialog.Description className="mt-1 text-sm text-quiet">
            Nothing has been kept yet. Choose whose value stands, then keep.
          </AlertDialog.Description>
          <ul className="mt-3 max-h-72 space-y-2 overflow-y-auto">
            {question?.conflicts.map((conflict) => (
              <li key={`${conflict.kind} ${conflict.id} ${conflict.field}`}>
                <ConflictRow conflict={conflict}>
                  <ToggleGroup.Root
                    type="single"
                    aria-label={`Whose ${conflict.field || conflict.name}`}
                    value={mine.includes(conflict) ? "mine" : "theirs"}
                    onValueChange={(value) =>
                      value &&
                      setMine((old) => (value === "mine" ? [...old, conflict] : old.filter((one) => one !== conflict)))
                    }
                    className="inline-flex overflow-hidden rounded border border-rule"
                  >
                    <ToggleGroup.Item value="theirs" className={CHOICE}>
                      Take theirs
                    </ToggleGroup.Item>
                    <ToggleGroup.Item value="mine" disabled={!canKeepMine(conflict)} className={CHOICE}>
                      Keep mine
                    </ToggleGroup.Item>
                  </ToggleGroup.Root>
                </ConflictRow>
              </li>
            ))}
          </ul>
          <div className="mt-3 flex justify-end gap-2">
            <AlertDialog.Cancel className={buttonClass()}>Back, nothing kept</AlertDialog.Cancel>
            <Button look="primary" onClick={() => end([...mine])}>
              Keep as chosen
            </Button>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
