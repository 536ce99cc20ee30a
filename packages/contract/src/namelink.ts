import type { NameLink } from "./wire";

/** `drawing office: BZ-5` */
export const linkText = (link: NameLink): string => (link.scope === "" ? link.name : `${link.scope}: ${link.name}`);
