"use client";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";

export interface FindProps {
  find: string;
  /** Cutters that the search leaves, and the page of them that is shown. */
  total: number;
  page: number;
  pages: number;
}

/** Finds by name, and turns pages. */
export function FindCutters({ find, total, page, pages }: FindProps) {
  const router = useRouter();
  const [wanted, setWanted] = useState(find);
  const address = (to: { page?: number; find?: string }) => {
    const words = to.find ?? find;
    const query = new URLSearchParams({ ...(words ? { find: words } : {}), ...((to.page ?? 1) > 1 ? { page: String(to.page) } : {}) }).toString();
    return `/cutters${query ? `?${query}` : ""}`;
  };
  return (
    <form
      style={{ display: "flex", gap: 10, alignItems: "center", marginTop: 14, flexWrap: "wrap" }}
      onSubmit={(event) => {
        event.preventDefault();
        router.push(address({ find: wanted.trim() }));
      }}
    >
      <TextField size="small" label="Find by name" value={wanted} onChange={(event) => setWanted(event.target.value.slice(0, 80))} />
      <Button type="submit" variant="outlined" sx={{ minHeight: 40 }}>
        Find
      </Button>
      <span role="status" style={{ flex: 1 }}>
        {total} {find ? "of that name" : "cutters"}
      </span>
      {page > 1 && (
        <Button component={Link} href={address({ page: page - 1 })}>
          Newer
        </Button>
      )}
      {pages > 1 && (
        <span className="num">
          {page} of {pages}
        </span>
      )}
      {page < pages && (
        <Button component={Link} href={address({ page: page + 1 })}>
          Older
        </Button>
      )}
    </form>
  );
}
