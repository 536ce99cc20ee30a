/** A key that begins a name: a letter or a digit. Signs are left to shortcuts such as `?`. */
export function isTyped(key: string): boolean {
	return /^[\p{L}\p{N}]$/u.test(key);
}
