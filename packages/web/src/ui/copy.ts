/**
 * Puts text on the clipboard. By the copy event, because the clipboard interface is missing where the page is not
 * served over TLS.
 * @returns false when the browser refused
 */
export function copyText(text: string): boolean {
	const onCopy = (e: ClipboardEvent): void => {
		e.clipboardData?.setData("text/plain", text);
		e.preventDefault();
	};
	document.addEventListener("copy", onCopy);
	try {
		return document.execCommand("copy");
	} finally {
		document.removeEventListener("copy", onCopy);
	}
}

/** Offers text or bytes as a file. */
export function saveFile(name: string, content: string | Blob, type = "text/plain"): void {
	const url =
		typeof content === "string" && content.startsWith("data:") ? content : URL.createObjectURL(new Blob([content], { type }));
	const link = document.createElement("a");
	link.href = url;
	link.download = name;
	link.click();
	if (url.startsWith("blob:")) setTimeout(() => URL.revokeObjectURL(url), 10_000);
}
