"use client";

import type { ReactNode } from "react";
import { Button, type ButtonProps } from "./button";

/** ms until what a submit found wrong is drawn. */
const DRAWN = 50;

/** After a submit that was refused, the first field with an error has the focus. */
const leadToError = (root: Element): void =>
  void setTimeout(() => root.querySelector<HTMLElement>('[aria-invalid="true"]')?.focus(), DRAWN);

export interface FormProps {
  readonly className?: string;
  /** Enter in a field, or its submit button. */
  onSubmit(): unknown;
  readonly children: ReactNode;
}

/** A form that says itself what is wrong: after a submit that was refused, the first field with an error has the focus. */
export function Form({ className, onSubmit, children }: FormProps) {
  return (
    <form
      noValidate
      {...(className ? { className } : {})}
      onSubmit={(e) => {
        e.preventDefault();
        onSubmit();
        leadToError(e.currentTarget);
      }}
    >
      {children}
    </form>
  );
}

/** Saves the fields of a page on which numbers are tried: Enter in a field saves nothing there. */
export function SaveButton({ onSave, ...rest }: Omit<ButtonProps, "onClick" | "look"> & { onSave(): unknown }) {
  return (
    <Button
      {...rest}
      look="main"
      onClick={(e) => {
        onSave();
        leadToError(e.currentTarget.closest("main") ?? document.body);
      }}
    />
  );
}
