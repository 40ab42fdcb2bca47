"use client";

import { useState } from "react";
import { useForm } from "react-hook-form";
import { Button } from "./button";
import { Form } from "./form";
import { FormNumber } from "./form-fields";
import { ReasonDialog } from "./reason-dialog";

/** V that no single cell has. */
const MOST_VOLTS = 5;

export interface ChargeEndProps {
  readonly title: string;
  /** Full, with the voltage that it then shows; or taken out early, for a reason. Whether it could be stored. */
  onEnd(volts: number | null, stopped?: string): Promise<boolean>;
  onCancel(): void;
}

/** Takes a cell off its charger. */
export function ChargeEnd({ title, onEnd, onCancel }: ChargeEndProps) {
  const { control, handleSubmit, getValues } = useForm<{ voltage: number | null }>({
    defaultValues: { voltage: null },
  });
  const [early, setEarly] = useState(false);
  return (
    <Form onSubmit={handleSubmit((f) => onEnd(f.voltage))}>
      <FormNumber
        control={control}
        name="voltage"
        label="Voltage now"
        quantity="V"
        autoFocus
        missing="Enter the voltage that it shows."
        refuse={(v) => (v > 0 && v < MOST_VOLTS ? null : "Outside any cell's range.")}
      />
      <div className="flex flex-wrap gap-3">
        <Button look="main" type="submit">
          Save as full
        </Button>
        <Button onClick={() => setEarly(true)}>Take out early</Button>
        <Button onClick={onCancel}>Cancel</Button>
      </div>
      {early ? (
        <ReasonDialog
          title={`Take ${title} out`}
          about="It is not full. The reason is shown in its history."
          act="Take out"
          common={["the plug was pulled", "it got hot", "wrong bay", "it takes no charge"]}
          onClose={() => setEarly(false)}
          onReason={(why) => {
            const volts = getValues("voltage");
            return onEnd(Number.isFinite(volts) ? volts : null, why);
          }}
        />
      ) : null}
    </Form>
  );
}
