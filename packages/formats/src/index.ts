export { isZip, openZip, ZIP_LIMITS, type Zip, type ZipEntry, type ZipLimits } from "./zip";
