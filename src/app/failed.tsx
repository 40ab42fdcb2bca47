import { Button } from "@/ui/button";
import { Section } from "@/ui/section";

/** What stands where something could not be drawn: why, that nothing is lost, and the way on. */
export function Failed({ why }: { readonly why: string }) {
  const unfetched = /chunk|import|fetch/i.test(why);
  return (
    <div className="sheet" role="alert">
      <Section level={1} title={unfetched ? "A part of the application can't be fetched" : "This page can't be drawn"}>
        <p className="mb-4 max-w-prose">
          {unfetched ? "Either the application was stopped or it was renewed while this page stood open: see that it runs, then reload." : "That is a fault of the application; reload to try again, or go elsewhere."} What was taken is safe in this browser.
        </p>
        <Button look="main" onClick={() => location.reload()}>
          Reload
        </Button>
        <p className="figures mt-4 max-w-prose break-words text-sm text-pencil">{why}</p>
      </Section>
    </div>
  );
}
