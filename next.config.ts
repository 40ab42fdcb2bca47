import type { NextConfig } from "next";
import { version } from "./package.json";

const config: NextConfig = {
  reactStrictMode: true,
  poweredByHeader: false,
  // Stands on what is given out, such as an issued sheet.
  env: { NIMBUS_VERSION: version },
  // npm test has checked the types before it builds: they are not checked twice.
  typescript: { ignoreBuildErrors: process.env.NIMBUS_TYPES_CHECKED === "1" },
  turbopack: { root: __dirname },
  async headers() {
    return [
      // What a file is, its type says: nobody may guess otherwise.
      { source: "/:path*", headers: [{ key: "X-Content-Type-Options", value: "nosniff" }] },
      {
        // A worker takes its policy from its own response, not from the page that starts it.
        source: "/_next/static/:path*",
        headers: [
          {
            key: "Content-Security-Policy",
            value: "default-src 'none'; script-src 'self'; connect-src 'self'",
          },
        ],
      },
    ];
  },
};

export default config;
