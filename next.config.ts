import type { NextConfig } from "next";

const config: NextConfig = {
  serverExternalPackages: ["@electric-sql/pglite", "piscina"],
  poweredByHeader: false,
  reactStrictMode: true,
  // Types are checked by `npm test`, over tests and scripts too; a build for use need not wait for that.
  typescript: { ignoreBuildErrors: true },
  devIndicators: false,
  // The address before 0.3.0.
  async redirects() {
    return [{ source: "/keeping", destination: "/backups", permanent: true }];
  },
  async headers() {
    return [
      {
        source: "/:path*",
        headers: [
          { key: "X-Frame-Options", value: "DENY" },
          { key: "X-Content-Type-Options", value: "nosniff" },
          { key: "Referrer-Policy", value: "same-origin" },
          { key: "Cross-Origin-Opener-Policy", value: "same-origin" },
          { key: "Permissions-Policy", value: "camera=(), geolocation=(), microphone=(self)" },
        ],
      },
      // A response of the API is data: should a browser show one, it runs nothing.
      { source: "/api/:path*", headers: [{ key: "Content-Security-Policy", value: "default-src 'none'; frame-ancestors 'none'" }] },
    ];
  },
};

export default config;
