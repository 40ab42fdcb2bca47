import { Button } from "@/ui/button";
import { Section } from "@/ui/section";

/** What stands where something could not be drawn: why, that nothing is lost, and the way on. */
export function Failed({ why }: { readonly why: string }) {
  const unfetched = /chunk|import|fetch/i.test(why);
  return (
    <div className="sheet" role="alert">
      <Section level={1} title={unfetched ? "Part of the application can't be loaded" : "This page can't be shown"}>
        <p className="mb-4 max-w-prose">
          {unfetched
            ? "The application was stopped or updated while this page was open. Check that it is running, then reload."
            : "This is a fault in the application. Reload to try again, or open another page."}{" "}
          Your readings are safe in this browser.
        </p>
        <Button look="main" onClick={() => location.reload()}>
          Reload
        </Button>
        <p className="figures mt-4 max-w-prose break-words text-sm text-pencil">{why}</p>
      </Section>
    </div>
  );
}
