export { HATCH_LEGEND, type HatchTile, hatchOf, hatchTile, isDistinct, neighbourHatch } from "./hatch";
export { shadeAt } from "./texture";
