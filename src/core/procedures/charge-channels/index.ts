import type { AtBench, PointsProcedure } from "../contract";
import { chargeChannelsFacts, CHARGE, SET_UP } from "./facts";
import { chargeChannelsForm } from "./form";
import { analyseChannels } from "./analyse";
import { channelsCautions, channelsStopRules, channelsWiring } from "./cautions";
import { checkSignal, nextSignal } from "./guide";
import { likeness } from "./likeness";
import { CHANNELS_FIELDS, CHANNELS_ROLES, channelsOf, channelsRemarks, planChannels, type ChannelsPlan } from "./plan";

/** Several chargers on one cell, from a table of their done signals. */
export const chargeChannels: AtBench<PointsProcedure<ChannelsPlan>> = {
  ...chargeChannelsFacts,
  ...chargeChannelsForm,
  workFor: ({ plan }) =>
    plan
      ? Array.from({ length: plan.repeats }, () => [
          { minutes: SET_UP, needs: ["hands", "supply"] as const },
          { minutes: CHARGE, needs: ["hands", "supply"] as const },
        ]).flat()
      : null,
  plan: planChannels,
  fields: CHANNELS_FIELDS,
  conditionFields: [],
  withCell: channelsOf,
  remarks: channelsRemarks,
  roles: () => CHANNELS_ROLES,
  wiring: channelsWiring,
  cautions: channelsCautions,
  stopRules: channelsStopRules,
  next: nextSignal,
  check: checkSignal,
  likeness,
  analyse: analyseChannels,
};
