/** The name of what is being dragged out of the drawer, beside the pointer. */
export const HeldName = ({
  name,
  at: [x, y],
}: {
  readonly name: string;
  readonly at: readonly [number, number];
}) => (
  <div
    className="pointer-events-none fixed z-50 rounded border bg-raised px-2 py-0.5 font-semibold shadow"
    style={{ left: x + 12, top: y + 12 }}
  >
    {name}
  </div>
);
