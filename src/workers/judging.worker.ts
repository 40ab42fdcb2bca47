import { analyseRun } from "@/notebook/analyse-run";
import { workedOut } from "@/notebook/board-work";
import { ofBoard } from "./judging";
import { serve } from "./serve";

// A worker that is about to judge boards: what that takes comes with it in one go, where the other one fetches it piece by piece. It is
// named, since what is only imported is left out.
serve([ofBoard, workedOut, analyseRun]);
