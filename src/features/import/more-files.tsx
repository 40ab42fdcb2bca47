"use client";

import { useState } from "react";
import { useForm } from "react-hook-form";
import { mappedLabel, readTime, type ColumnMapping, type TextTable } from "@/core/files";
import type { Role } from "@/core/measurement";
import { formatDuration } from "@/core/quantities";
import type { FurtherFile } from "@/core/files/records";
import { attempt } from "@/browser/notify";
import { readingLogs } from "@/workers/client";
import { Button } from "@/ui/button";
import { FileButton } from "@/ui/file-button";
import { FormNumber, FormSelect } from "@/ui/form-fields";
import { useTyped } from "@/ui/use-typed";
import { ColumnPicker } from "./column-picker";

interface Opened {
  readonly name: string;
  readonly file: File;
  readonly table: TextTable;
  readonly rows: number;
  readonly whole: boolean;
  readonly encoding: "utf-8" | "windows-1252";
}

/** A further file of the same run: the log goes on in it, or another logger wrote it meanwhile. */
export interface MoreFile extends Opened {
  readonly mapping: ColumnMapping;
  readonly join: FurtherFile["join"];
  /** s on the first file's clock at which its first row stands; null while nobody said. */
  readonly starts: number | null;
  /** Raised when `starts` was worked out anew, so that its field shows it. */
  readonly edition: number;
}

function firstTime(table: TextTable, mapping: ColumnMapping): number | null {
  const spec = mapping.time;
  const cell = spec ? table.rows[0]?.[table.headers.indexOf(spec.header)] : undefined;
  return spec && cell !== undefined ? readTime(cell, spec.unit, table.dialect.decimal) : null;
}

/** What a further file most likely is: the same columns go on where the first ends, other columns were logged beside it. */
export function moreFile(opened: Opened, guessed: ColumnMapping, first: Opened, mapping: ColumnMapping): MoreFile {
  const same = opened.table.headers.join() === first.table.headers.join();
  const own = same ? mapping : guessed;
  const [a, b] = [firstTime(first.table, mapping), firstTime(opened.table, own)];
  const sameClock = mapping.time?.unit === own.time?.unit && a !== null && b !== null && b > a;
  return {
    ...opened,
    mapping: own,
    join: same ? "after" : "beside",
    starts: sameClock ? b - a : same ? null : 0,
    edition: 0,
  };
}

export interface MoreFilesProps {
  readonly files: readonly MoreFile[];
  readonly roles: readonly Role[];
  readonly first: { readonly opened: Opened; readonly mapping: ColumnMapping };
  onFiles(files: readonly MoreFile[]): void;
  onAdd(file: File): void;
}

/** Several files as one run: how each joins the first, and where it stands on the first one's clock. */
export function MoreFiles({ files, roles, first, onFiles, onAdd }: MoreFilesProps) {
  const [said, setSaid] = useState<string | null>(null);
  const put = (k: number, change: Partial<MoreFile>) =>
    onFiles(files.map((f, i) => (i === k ? { ...f, ...change } : f)));
  const align = (f: MoreFile, k: number) =>
    void attempt(async () => {
      const log = (o: Opened, mapping: ColumnMapping) => ({
        blob: o.file as Blob,
        dialect: o.table.dialect,
        mapping,
        encoding: o.encoding,
      });
      const r = await readingLogs().ask("log-align", {
        first: log(first.opened, first.mapping),
        second: log(f, f.mapping),
      });
      if ("error" in r) throw new Error(`${f.name}: ${r.error}`);
      put(k, { starts: r.starts, edition: f.edition + 1 });
      setSaid(
        `${f.name} starts ${formatDuration(Math.abs(r.starts))} ${r.starts < 0 ? "before" : "after"} the first file: ${r.matched} ${r.matched === 1 ? "step falls" : "steps fall"} on one that the first one saw too.`,
      );
    });
  return (
    <div className="mt-4">
      {files.map((f, k) => (
        <MoreRow
          key={`${f.name}${k} ${f.edition}`}
          file={f}
          roles={roles}
          onChange={(change) => put(k, change)}
          onAlign={() => align(f, k)}
          onRemove={() => onFiles(files.filter((_, i) => i !== k))}
        />
      ))}
      {said ? (
        <p role="status" className="mb-2 text-sm">
          {said}
        </p>
      ) : null}
      <FileButton label="Another CSV of this run" onFile={onAdd}>
        Add another file of this run
      </FileButton>
    </div>
  );
}

interface MoreRowProps {
  readonly file: MoreFile;
  readonly roles: readonly Role[];
  onChange(change: Partial<MoreFile>): void;
  onAlign(): void;
  onRemove(): void;
}

const columnsText = ({ mapping }: MoreFile): string =>
  Object.entries(mapping)
    .flatMap(([role, c]) =>
      c && role !== "time" ? [`${mappedLabel(role as keyof ColumnMapping).toLowerCase()} (${c.header})`] : [],
    )
    .join(", ") || "no known column";

/** One further file: how it joins the first, and where it starts. */
function MoreRow({ file: f, roles, onChange, onAlign, onRemove }: MoreRowProps) {
  const form = useForm<Pick<MoreFile, "join" | "starts">>({ defaultValues: { join: f.join, starts: f.starts } });
  useTyped(form, (_, { join, starts }) => onChange({ join, starts: Number.isNaN(starts) ? null : starts }));
  const { control } = form;
  return (
    <div className="mb-2 flex flex-wrap items-end gap-x-5 gap-y-1 border-l-4 border-rule pl-3">
      <span className="self-center font-medium">{f.name}</span>
      <FormSelect
        control={control}
        name="join"
        label="It"
        place="above"
        choices={[
          { value: "after", label: "continues where the first ends" },
          { value: "beside", label: "was logged beside the first" },
        ]}
      />
      <FormNumber control={control} name="starts" label="Its first row is at" quantity="s" missing="Enter a time." />
      {f.join === "beside" ? <Button onClick={onAlign}>Align on a common step</Button> : null}
      <Button look="bare" onClick={onRemove}>
        Remove file
      </Button>
      <span className="w-full text-sm text-pencil">
        Columns: {columnsText(f)}.{f.starts === null ? " Start time after the first file's first row" : ""}
      </span>
      <details className="w-full">
        <summary className="text-sm">Columns</summary>
        <ColumnPicker
          table={f.table}
          mapping={f.mapping}
          roles={roles}
          rows={f.rows}
          whole={f.whole}
          onMapping={(mapping) => onChange({ mapping })}
        />
      </details>
    </div>
  );
}
