/** Said beside an answer while a field that it rests on is empty or invalid. */
export const NotTaken = () => (
  <p role="status" className="mb-2 text-close">
    A field is empty or invalid. What is shown is worked out from its last valid value.
  </p>
);
