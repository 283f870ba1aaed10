"use client";
import Button from "@mui/material/Button";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { type CutterKind, MAX_FILE_CHARACTERS } from "@/core/cutters/design/vocabulary";
import { CutterDrawing } from "../../cutter/CutterDrawing";
import { VerdictMark } from "../../cutter/VerdictMark";
import { api, type UnreadableRow } from "../../kit/api";
import { DocumentList, type ListedDocument } from "../../kit/DocumentList";
import { later } from "../../kit/later";
import { useListActions } from "../../kit/useListActions";
import { useUnits } from "../../kit/useUnits";
import type { FindProps } from "./FindCutters";
import type { MenuProps } from "./NewCutterMenu";
import type { ListedCutter } from "./rows";

const NewCutterMenu = later<MenuProps>(
  () => import("./NewCutterMenu").then((module) => module.NewCutterMenu),
  ({ anchor }) => anchor !== null,
);
const FindCutters = later<FindProps>(
  () => import("./FindCutters").then((module) => module.FindCutters),
  ({ find, pages }) => pages > 1 || find !== "",
);

/** The list of cutters, a page at a time. */
export function CutterList({
  cutters,
  deleted,
  deletedTotal,
  unreadable,
  total,
  page,
  pages,
  find,
  empty,
}: {
  cutters: readonly ListedCutter[];
  deleted: readonly { id: string; name: string }[];
  deletedTotal: number;
  unreadable: readonly UnreadableRow[];
  /** Cutters that match the search, and the page of them that is shown. */
  total: number;
  page: number;
  pages: number;
  find: string;
  /** No cutter was ever made here. */
  empty: boolean;
}) {
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const { system } = useUnits();
  const router = useRouter();
  const { notice, actions } = useListActions(api.cutters);
  const make = (kind: CutterKind) =>
    actions.run(async () => {
      setMenu(null);
      // The defaults are loaded when the first new cutter is made.
      const { KINDS, newDesign } = await import("@/core/cutters/solve/defaults");
      router.push(`/cutters/${(await api.cutters.create(newDesign(kind, KINDS[kind].name))).id}`);
    });
  const rowOf = ({ id, name, kind, changedBy, verdict, verdictWord, said }: ListedCutter): ListedDocument => ({
    id,
    name,
    changedBy,
    drawing: <CutterDrawing kind={kind} />,
    line: said[system].line,
    mark: (
      <div className="verdict-mark" data-verdict={verdict} title={said[system].detail}>
        <VerdictMark verdict={verdict} />
        {verdictWord}
      </div>
    ),
  });
  return (
    <DocumentList
      kind="cutters"
      rows={cutters.map(rowOf)}
      archived={deleted}
      archivedTotal={deletedTotal}
      unreadable={unreadable}
      maxCharacters={MAX_FILE_CHARACTERS}
      notice={notice}
      actions={actions}
      create={
        <>
          <Button variant="contained" aria-haspopup="menu" onClick={(event) => setMenu(event.currentTarget)}>
            New cutter
          </Button>
          <NewCutterMenu anchor={menu} onMake={(kind) => void make(kind)} onClose={() => setMenu(null)} />
        </>
      }
      empty={empty && <EmptyList onMake={() => void make("bow")} />}
    >
      <FindCutters find={find} total={total} page={page} pages={pages} />
    </DocumentList>
  );
}

function EmptyList({ onMake }: { onMake: () => void }) {
  return (
    <div style={{ margin: "60px 0", maxWidth: 560 }}>
      <CutterDrawing kind="bow" />
      <p style={{ fontSize: 20, lineHeight: 1.5 }}>
        A cutter here is a wire, a supply and a foam, solved together so that you know before you plug in whether it cuts cleanly.
      </p>
      <p className="empty-acts">
        <Button variant="contained" size="large" component={Link} href="/start">
          Start from the job
        </Button>
        <Button variant="outlined" size="large" onClick={onMake}>
          Make an empty bow
        </Button>
        <Button size="large" component={Link} href="/demo/long-tom">
          Look round a demo cutter
        </Button>
      </p>
    </div>
  );
}
