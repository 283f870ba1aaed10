import "@fontsource-variable/bitter";
import "@fontsource-variable/spline-sans-mono";
import "@/ui/kit/theme/tokens.css";
import CssBaseline from "@mui/material/CssBaseline";
import InitColorSchemeScript from "@mui/material/InitColorSchemeScript";
import { ThemeProvider } from "@mui/material/styles";
import { AppRouterCacheProvider } from "@mui/material-nextjs/v16-appRouter";
import type { Metadata, Viewport } from "next";
import { cookies, headers } from "next/headers";
import type { ReactNode } from "react";
import { MEMBER_HEADER } from "@/server/kernel/accessGuard";
import { OfflineReady } from "@/ui/kit/OfflineReady";
import { theme } from "@/ui/kit/theme/theme";
import { MemberProvider, type Seated } from "@/ui/kit/useMember";
import { UnitsProvider } from "@/ui/kit/useUnits";

export const metadata: Metadata = { description: "Hot-wire foam cutters by the numbers", icons: { icon: "/icon.svg" } };
export const viewport: Viewport = { width: "device-width", initialScale: 1 };

export default async function RootLayout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get("x-nonce") ?? undefined;
  const units = (await cookies()).get("upwind-units")?.value === "inch" ? "inch" : "metric";
  // As the server decides, never as the browser claims.
  const header = (await headers()).get(MEMBER_HEADER);
  const seated: Seated = header === null ? { accessMode: "open", name: null, role: "keep" } : JSON.parse(decodeURIComponent(header));
  return (
    <html lang="en" suppressHydrationWarning>
      <body>
        <InitColorSchemeScript attribute="data-scheme" defaultMode="system" nonce={nonce} />
        <AppRouterCacheProvider options={{ nonce, key: "ur" }}>
          <ThemeProvider theme={theme} defaultMode="system">
            <CssBaseline />
            <UnitsProvider initial={units}>
              <MemberProvider seated={seated}>{children}</MemberProvider>
              <OfflineReady />
            </UnitsProvider>
          </ThemeProvider>
        </AppRouterCacheProvider>
      </body>
    </html>
  );
}
