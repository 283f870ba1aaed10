/** The title of the page in the browser: the parts, then the application's name, as in "Long Tom - Tension - Upwind Rod". React moves it into the head. */
export function PageTitle({ parts = [] }: { parts?: readonly (string | null | undefined | false)[] }) {
  return <title>{[...parts, "Upwind Rod"].filter(Boolean).join(" - ")}</title>;
}
