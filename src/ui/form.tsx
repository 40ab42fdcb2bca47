"use client";

import type { ReactNode } from "react";

export interface FormProps {
  readonly className?: string;
  /** Enter in a field, or its submit button. */
  onSubmit(): unknown;
  readonly children: ReactNode;
}

/** ms until what a submit found wrong is drawn. */
const DRAWN = 50;

/** A form that says itself what is wrong: after a submit that was refused, the first field with an error has the focus. */
export function Form({ className, onSubmit, children }: FormProps) {
  return (
    <form
      noValidate
      {...(className ? { className } : {})}
      onSubmit={(e) => {
        e.preventDefault();
        const form = e.currentTarget;
        onSubmit();
        setTimeout(() => form.querySelector<HTMLElement>('[aria-invalid="true"]')?.focus(), DRAWN);
      }}
    >
      {children}
    </form>
  );
}
