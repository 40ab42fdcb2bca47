import { roleLabel, type Role } from "@/core/measurement";
import { Button } from "./button";

/** Beside a field's label: says, once a run, that nobody reads it. */
export function NotReadButton({
  labelId,
  className = "",
  onPress,
}: {
  readonly labelId: string;
  readonly className?: string;
  onPress(): void;
}) {
  return (
    <Button look="bare" className={`${className} text-xs`} aria-describedby={labelId} onClick={onPress}>
      not measured in this run
    </Button>
  );
}

/** The roles that nobody reads in this run, each with the way back. */
export function NotRead({ roles, onRead }: { readonly roles: readonly Role[]; onRead(role: Role): void }) {
  return roles.map((role) => (
    <p key={role} className="col-span-full text-sm text-pencil">
      {roleLabel(role)} is not measured in this run.{" "}
      <Button look="bare" onClick={() => onRead(role)}>
        Measure it
      </Button>
    </p>
  ));
}
