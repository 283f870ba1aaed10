import { SignIn } from "@/ui/rooms/access/SignIn";

export const dynamic = "force-dynamic";

export default function SignInPage() {
  return <SignIn />;
}
