import { writeFile } from "node:fs/promises";
import { Builder, By, Key, until, type WebDriver, type WebElement } from "selenium-webdriver";
import { WebSocket } from "ws";
import { Options, ServiceBuilder, type Driver } from "selenium-webdriver/chrome";

export type Browser = {
  driver: WebDriver;
  /** Opens a path of the application. */
  go(path: string): Promise<void>;
  /** The first element that fits, as soon as it is there. */
  find(css: string, seconds?: number): Promise<WebElement>;
  /** Waits until an element that came with the page answers to keys and pointer: React has taken it over (it notes so on the element). */
  awake(css: string): Promise<void>;
  /** A button or link by its visible words or label. */
  press(words: string): Promise<void>;
  text(css?: string): Promise<string>;
  waitForText(words: string, css?: string, seconds?: number): Promise<void>;
  keys(...keys: string[]): Promise<void>;
  /** A key with Shift held. */
  shift(key: string): Promise<void>;
  /** A key with Control held. */
  control(key: string): Promise<void>;
  /** A key with Alt held. */
  alt(key: string): Promise<void>;
  enterAs(personId: string): Promise<void>;
  /** The page's own clock from now on, so many milliseconds from the real one (until it is loaded anew). */
  clock(shiftMs: number): Promise<void>;
  /** The recording that runs has as many seconds. */
  recorded(seconds: number): Promise<void>;
  /** Nothing on the page moves any more, and what was to be painted is painted. */
  settled(): Promise<void>;
  offline(on: boolean): Promise<void>;
  /** Every answer comes so many milliseconds later; 0 ends it. */
  slow(ms: number): Promise<void>;
  shot(file: string, size?: { width: number; height: number }): Promise<void>;
  close(): Promise<void>;
};

/** How long something is waited for, in seconds: it ends as soon as it is there, and these machines can be busy. */
const PATIENCE = 60;

const conditions = (offline: boolean) => ({
  offline,
  latency: 0,
  downloadThroughput: -1,
  uploadThroughput: -1,
});

/** Says it to one target by Chromium's own protocol; the emulation lasts as long as the connection. */
function tell(address: string, offline: boolean): Promise<WebSocket> {
  return new Promise((resolve, reject) => {
    const socket = new WebSocket(address);
    socket.on("error", reject);
    socket.on("open", () => {
      socket.send(JSON.stringify({ id: 1, method: "Network.enable" }));
      socket.send(
        JSON.stringify({
          id: 2,
          method: "Network.emulateNetworkConditions",
          params: conditions(offline),
        }),
      );
    });
    socket.on("message", (data) => {
      if ((JSON.parse(String(data)) as { id?: number }).id === 2) resolve(socket);
    });
  });
}

/** Headless Chromium on the application, with a viewport of exactly the size asked for. */
export async function openBrowser(
  origin: string,
  size = { width: 1280, height: 800 },
  {
    microphone,
    refuse = false,
  }: {
    /** A WAV file that the microphone hears, over and over. */ microphone?: string;
    /** The person says no to the microphone. */ refuse?: boolean;
  } = {},
): Promise<Browser> {
  const options = new Options();
  options.setChromeBinaryPath("/usr/bin/chromium");
  options.addArguments(
    "--headless=new",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-dev-shm-usage",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--force-prefers-reduced-motion",
    "--hide-scrollbars",
    "--lang=en-GB",
    "--use-fake-device-for-media-stream",
    "--autoplay-policy=no-user-gesture-required",
    refuse ? "--deny-permission-prompts" : "--use-fake-ui-for-media-stream",
    ...(microphone ? [`--use-file-for-fake-audio-capture=${microphone}`] : []),
  );
  const driver = (await new Builder()
    .forBrowser("chrome")
    .setChromeOptions(options)
    .setChromeService(new ServiceBuilder("/usr/bin/chromedriver"))
    .build()) as Driver;
  // Asked five times as often as Selenium does by itself: hundreds of waits end a tenth of a second sooner.
  const wait = driver.wait.bind(driver) as (
    condition: unknown,
    timeout?: number,
    message?: string | (() => string),
    poll?: number,
  ) => ReturnType<typeof driver.wait>;
  driver.wait = ((condition: unknown, timeout?: number, message?: string | (() => string)) =>
    wait(condition, timeout, message, 40)) as typeof driver.wait;
  // --window-size counts the frame; the emulated size is the page's own.
  const resize = ({ width, height }: { width: number; height: number }) =>
    driver.sendDevToolsCommand("Emulation.setDeviceMetricsOverride", {
      width,
      height,
      deviceScaleFactor: 1,
      mobile: width < 600,
    });
  await resize(size);
  const workers: WebSocket[] = [];
  const body = () => driver.findElement(By.css("body"));
  const browser: Browser = {
    driver,
    go: (path) => driver.get(origin + path),
    find: (css, seconds = PATIENCE) =>
      driver.wait(until.elementLocated(By.css(css)), seconds * 1000, `no ${css} on the page`),
    async awake(css) {
      const taken =
        "const e = document.querySelector(arguments[0]); return e !== null && Object.keys(e).some((key) => key.startsWith('__reactProps'))";
      await driver.wait(
        () => driver.executeScript<boolean>(taken, css),
        PATIENCE * 1000,
        `${css} did not wake`,
      );
    },
    async press(words) {
      const literal = `"${words}"`;
      const xpath = `//*[self::button or self::a or self::summary or self::label or @role='menuitem'][@aria-label=${literal} or normalize-space(.)=${literal} or starts-with(normalize-space(.), ${literal})]`;
      const visible = async () => {
        for (const element of await driver.findElements(By.xpath(xpath)))
          if (
            (await element.isDisplayed().catch(() => false)) &&
            (await element.isEnabled().catch(() => false))
          )
            return element;
        return null;
      };
      const element = (await driver.wait(
        visible,
        PATIENCE * 1000,
        `nothing to press says "${words}"`,
      )) as WebElement;
      await driver.executeScript("arguments[0].scrollIntoView({ block: 'center' })", element);
      await element.click();
    },
    text: async (css) => (css ? await browser.find(css) : await body()).getText(),
    async waitForText(words, css = "body", seconds = PATIENCE) {
      await driver.wait(
        async () => {
          for (const element of await driver.findElements(By.css(css)))
            if ((await element.getText().catch(() => "")).includes(words)) return true;
          return false;
        },
        seconds * 1000,
        `"${words}" did not appear in ${css}`,
      );
    },
    keys: (...keys) =>
      driver
        .actions()
        .sendKeys(...keys)
        .perform(),
    shift: (key) => driver.actions().keyDown(Key.SHIFT).sendKeys(key).keyUp(Key.SHIFT).perform(),
    control: (key) =>
      driver.actions().keyDown(Key.CONTROL).sendKeys(key).keyUp(Key.CONTROL).perform(),
    alt: (key) => driver.actions().keyDown(Key.ALT).sendKeys(key).keyUp(Key.ALT).perform(),
    async enterAs(personId) {
      await driver.get(`${origin}/sign-in`);
      await driver.manage().deleteAllCookies();
      const script =
        "const done = arguments[1]; fetch('/api/demo/enter', { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ personId: arguments[0] }) }).then((r) => done(r.status))";
      const status = await driver.executeAsyncScript<number>(script, personId);
      if (status !== 200) throw new Error(`entering as ${personId} answered ${status}`);
    },
    async offline(on) {
      await driver.sendDevToolsCommand("Network.enable", {});
      await driver.sendDevToolsCommand("Network.emulateNetworkConditions", conditions(on));
      // The service worker is a target of its own: it must lose the network too.
      const debuggerAddress = (
        (await driver.getCapabilities()).get("goog:chromeOptions") as { debuggerAddress: string }
      ).debuggerAddress;
      const targets = (await (await fetch(`http://${debuggerAddress}/json/list`)).json()) as {
        type: string;
        webSocketDebuggerUrl: string;
      }[];
      for (const { webSocketDebuggerUrl } of targets.filter((t) => t.type === "service_worker"))
        workers.push(await tell(webSocketDebuggerUrl, on));
      if (!on) workers.splice(0).forEach((socket) => socket.close());
    },
    slow: (ms) =>
      driver.sendDevToolsCommand("Network.enable", {}).then(() =>
        driver.sendDevToolsCommand("Network.emulateNetworkConditions", {
          offline: false,
          latency: ms,
          downloadThroughput: -1,
          uploadThroughput: -1,
        }),
      ),
    clock: (shiftMs) =>
      driver.executeScript(
        `const real = window.realDate ??= Date; const shift = arguments[0];
         window.Date = class extends real { constructor(...given) { super(...(given.length ? given : [real.now() + shift])); } static now() { return real.now() + shift; } };`,
        shiftMs,
      ),
    recorded: async (seconds) => {
      await driver.wait(
        () =>
          driver.executeScript<boolean>(
            "const [m, s] = (document.querySelector('[role=timer]')?.textContent ?? '').split(' ')[0].split(':'); return Number(m) * 60 + Number(s) >= arguments[0]",
            seconds,
          ),
        PATIENCE * 1000 + seconds * 1000,
        `${seconds} s recorded`,
      );
    },
    settled: async () => {
      await driver.executeAsyncScript(
        `const done = arguments[0];
         const moving = () => document.getAnimations().some((a) => a.playState === "running" && a.effect?.getComputedTiming().iterations !== Infinity);
         const look = (left) => requestAnimationFrame(() => (moving() && left > 0 ? look(left - 1) : requestAnimationFrame(() => done())));
         document.fonts.ready.then(() => look(600));`,
      );
    },
    async shot(file, shotSize = size) {
      await resize(shotSize);
      await browser.settled();
      await writeFile(file, Buffer.from(await driver.takeScreenshot(), "base64"));
      await resize(size);
    },
    close: () => driver.quit(),
  };
  return browser;
}
