import { SignIn } from "@/ui/features/access/SignIn";

export const dynamic = "force-dynamic";

export default function SignInPage() {
  return <SignIn />;
}
