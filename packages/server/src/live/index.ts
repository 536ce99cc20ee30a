export { createHub, type Hub } from "./hub";
export { readNews } from "./news";
