import type { MetadataRoute } from "next";

/** What a phone needs to put the app among its own (W3C, Web Application Manifest). */
export default function manifest(): MetadataRoute.Manifest {
  return {
    name: "Upwind Rod",
    short_name: "Upwind Rod",
    description: "Hot-wire foam cutters by the numbers",
    start_url: "/",
    display: "standalone",
    background_color: "#f3eee5",
    theme_color: "#f3eee5",
    icons: [
      { src: "/icon.svg", sizes: "any", type: "image/svg+xml" },
      { src: "/icon-192.png", sizes: "192x192", type: "image/png" },
      { src: "/icon-512.png", sizes: "512x512", type: "image/png" },
      { src: "/icon-512.png", sizes: "512x512", type: "image/png", purpose: "maskable" },
    ],
  };
}
