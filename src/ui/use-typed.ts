import { useEffect, useRef } from "react";
import type { FieldValues, UseFormReturn } from "react-hook-form";

/** Called with a field's place and the form's values whenever a person changes it; what the form sets by itself is not told. */
export function useTyped<T extends FieldValues>(
  { subscribe }: Pick<UseFormReturn<T>, "subscribe">,
  onTyped: (name: string, values: T) => void,
): void {
  const told = useRef(onTyped);
  useEffect(() => {
    told.current = onTyped;
  });
  useEffect(
    () =>
      subscribe({
        formState: { values: true },
        callback: ({ name, type, values }) => (type === "change" && name ? told.current(name, values) : undefined),
      }),
    [subscribe],
  );
}
