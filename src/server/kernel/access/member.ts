import type { Role } from "@/core/workshop/roles";

/** Someone who signed in. */
export interface Member {
  id: string;
  name: string;
  role: Role;
  /** of this very session */
  session: string;
}
