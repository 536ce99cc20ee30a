import type { Locator, Page } from "@playwright/test";
import { test } from "@playwright/test";

/**
 * What a person does with the page, counted: a click, a text typed into a field and a key are one action each. Waiting and
 * looking are none.
 */
export class Hand {
	actions = 0;
	private readonly began = Date.now();

	constructor(readonly page: Page) {}

	async click(what: Locator): Promise<void> {
		this.actions++;
		await what.click();
	}

	async type(into: Locator, text: string): Promise<void> {
		this.actions++;
		await into.fill(text);
	}

	async press(key: string): Promise<void> {
		this.actions++;
		await this.page.keyboard.press(key);
	}

	async choose(what: Locator, option: string): Promise<void> {
		this.actions++;
		await what.selectOption(option);
	}

	/** Opens a place by its address: typed or from a bookmark. */
	async open(path: string): Promise<void> {
		this.actions++;
		await this.page.goto(path);
	}

	/** Writes the counts where `npm run bench -- jobs` reads them. */
	tell(): void {
		const seconds = ((Date.now() - this.began) / 1000).toFixed(1);
		test
			.info()
			.annotations.push({ type: "actions", description: String(this.actions) }, { type: "seconds", description: seconds });
	}
}
