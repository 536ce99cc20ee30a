export { readImage, writeImage } from "./image";
export { MaterialIndex } from "./material-index";
export { type FindQuery, type MaterialQueries, materialQueries } from "./queries";
export { snapshotIn } from "./snapshot";
