import { SCHEMA_VERSION } from "@/core/files/records";
import { answer, foreign, refusing } from "../answers";

export const dynamic = "force-dynamic";
export const { POST, HEAD, PUT, PATCH, DELETE, OPTIONS } = refusing(
  ["POST", "HEAD", "PUT", "PATCH", "DELETE", "OPTIONS"],
  "GET",
);

/** GET /api/health: the application answers, with its version and that of its records. */
export const GET = (request: Request): Response =>
  foreign(request) ?? answer({ status: "ok", version: process.env.NIMBUS_VERSION ?? "", schema: SCHEMA_VERSION });
