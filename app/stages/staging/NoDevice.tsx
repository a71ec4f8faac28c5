/** What a view of one device says while none is chosen, or the notes have not come yet. */
export function NoDevice({ waits }: { waits: boolean }) {
  return (
    <p role="status" className="p-8 text-center text-sm text-quiet">
      {waits ? "Reading what was noted on the bench…" : "Choose a radio among the devices, or its antenna on the plan."}
    </p>
  );
}
