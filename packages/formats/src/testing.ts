import { crc32, deflateRawSync } from "node:zlib";

/** A file of a ZIP that is made for a test; what is not said is as any program packs it. */
export type Packed = {
	readonly name: string | Uint8Array;
	readonly data?: Uint8Array;
	/** 0: as it is, 8: deflated. */
	readonly method?: number;
	/** General purpose bits; 1: locked, 0x800: the name is UTF-8. */
	readonly flags?: number;
	/** Unpacked size and checksum that the ZIP says, where they are not the true ones. */
	readonly says?: { readonly size?: number; readonly crc?: number };
	/** Mode of Unix, in the outer attributes. */
	readonly mode?: number;
};

/** A ZIP after the published layout: local headers with their data, the directory, its end. */
export function zipOf(files: readonly Packed[], comment = ""): Uint8Array {
	const parts: Buffer[] = [];
	const directory: Buffer[] = [];
	let offset = 0;
	for (const { name, data = new Uint8Array(), method = 8, flags = 0x800, says = {}, mode = 0o100644 } of files) {
		const written = Buffer.from(typeof name === "string" ? Buffer.from(name, "utf8") : name);
		const packed = method === 8 ? deflateRawSync(data) : Buffer.from(data);
		const common = Buffer.alloc(26);
		common.writeUInt16LE(20, 0);
		common.writeUInt16LE(flags, 2);
		common.writeUInt16LE(method, 4);
		common.writeUInt32LE(says.crc ?? crc32(data), 10);
		common.writeUInt32LE(packed.length, 14);
		common.writeUInt32LE(says.size ?? data.length, 18);
		common.writeUInt16LE(written.length, 22);
		const local = Buffer.concat([Buffer.from("PK\x03\x04", "latin1"), common, written, packed]);
		const tail = Buffer.alloc(14);
		tail.writeUInt32LE((mode << 16) >>> 0, 6);
		tail.writeUInt32LE(offset, 10);
		directory.push(Buffer.from("PK\x01\x02", "latin1"), Buffer.from([20, 3]), common, tail, written);
		parts.push(local);
		offset += local.length;
	}
	const entries = Buffer.concat(directory);
	const end = Buffer.alloc(18);
	end.writeUInt16LE(files.length, 4);
	end.writeUInt16LE(files.length, 6);
	end.writeUInt32LE(entries.length, 8);
	end.writeUInt32LE(offset, 12);
	end.writeUInt16LE(comment.length, 16);
	return Buffer.concat([...parts, entries, Buffer.from("PK\x05\x06", "latin1"), end, Buffer.from(comment, "latin1")]);
}
