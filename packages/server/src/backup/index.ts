export { backUp, backupName, backupsIn } from "./back-up";
export { hasData, refuseUnfinished } from "./folder";
export { restore } from "./restore";
export { type BackupState, keepBackups } from "./schedule";
export { verify } from "./verify";
