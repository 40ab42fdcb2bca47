import { workersIfLikely } from "@/workers/likely";

// Before the page is put together: what it is about to work out takes workers, and their start a third of a second.
if (location.pathname === "/compare") workersIfLikely("comparison", "not kept");
