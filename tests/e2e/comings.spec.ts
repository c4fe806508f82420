import { expect, test, type Page } from "@playwright/test";
import {
  announce,
  type Court,
  courtWithHost,
  nothingForAxe,
  openNow,
  person,
  pictures,
  strip,
} from "./court";

let court: Court;
let host: Page;
let link: string;
test.beforeAll(async ({ browser }) => {
  [court, host] = await courtWithHost(browser);
  link = await openNow(host, "Comings and goings");
});
test.afterAll(() => court.stop());

const select = async (name: string) => {
  await host.keyboard.press("Escape");
  await strip(host, name).locator("[data-strip]").click();
};
const inLobby = (page: Page) =>
  expect(
    page.getByRole("heading", { name: "You are announced" }),
  ).toBeVisible();
const isInside = (page: Page) => expect(page.getByTestId("may")).toBeVisible();

test("declined without words, a guest goes back to the door under a better name and is admitted as a presenter", async ({
  browser,
}) => {
  const guest = await person(browser, court);
  await announce(guest, link, "Galaxy 12");
  await inLobby(guest);
  await select("Galaxy 12");
  await host.keyboard.press("d");
  await host.getByRole("button", { name: "Decline", exact: true }).click();
  await expect(
    guest.getByRole("heading", { name: "You were not admitted" }),
  ).toBeVisible();
  await guest.getByRole("button", { name: "Back to the door" }).click();
  await guest
    .getByLabel("Your name, as others will see it")
    .fill("Gwen Ashdown");
  await guest.getByRole("button", { name: "Announce me" }).click();
  await inLobby(guest);
  await select("Gwen Ashdown");
  await host.getByRole("button", { name: "Admit as…" }).click();
  await host.getByRole("button", { name: "Admit as presenter" }).click();
  await isInside(guest);
  await expect(guest.getByText("you, presenter")).toBeVisible();
  await guest.context().close();
});

test("removed with the right to come back, a guest reads it, announces again, and is looked at before coming in", async ({
  browser,
}) => {
  const guest = await person(browser, court);
  await announce(guest, link, "Bartosz Wilk");
  await host.getByRole("button", { name: "Admit Bartosz Wilk" }).click();
  await isInside(guest);
  await select("Bartosz Wilk");
  await host.keyboard.press("Delete");
  await nothingForAxe(host, "remove panel");
  await host.getByRole("button", { name: "Remove; may come back" }).click();
  await expect(
    guest.getByRole("heading", { name: "You were removed" }),
  ).toBeVisible();
  await nothingForAxe(guest, "removed, may come back");
  await guest.getByRole("button", { name: "Back to the door" }).click();
  await guest.getByRole("button", { name: "Announce me" }).click();
  await inLobby(guest);
  await host.getByRole("button", { name: "Admit Bartosz Wilk" }).click();
  await isInside(guest);
  await guest.context().close();
});

test("who leaves keeps the seat and role, and comes back in with one click", async ({
  browser,
}) => {
  const guest = await person(browser, court);
  await announce(guest, link, "Ilse Vantorre");
  await inLobby(guest);
  await select("Ilse Vantorre");
  await host.getByRole("button", { name: "Admit as…" }).click();
  await host.getByRole("button", { name: "Admit as presenter" }).click();
  await isInside(guest);
  await guest.getByRole("button", { name: "Leave" }).click();
  await expect(guest.getByRole("heading", { name: "You left" })).toBeVisible();
  await host.getByRole("button", { name: /^Gone/ }).click();
  await expect(strip(host, "Ilse Vantorre")).toContainText("left");
  await nothingForAxe(guest, "left");
  await guest.getByRole("button", { name: "Come back in" }).click();
  await expect(guest.getByText("you, presenter")).toBeVisible();
  await guest.context().close();
});

test("a locked door may hold late people in the lobby; they come in when the bench looks at them", async ({
  browser,
}) => {
  await host.keyboard.press("Escape");
  await host.keyboard.press("l");
  await host
    .getByRole("radio", { name: "Late people wait in the lobby" })
    .click();
  await host.getByRole("button", { name: "Lock the door" }).click();
  await host.keyboard.press("Escape");
  const late = await person(browser, court);
  await late.goto(link);
  await expect(
    late.getByText("The door is locked. Late people wait in the lobby."),
  ).toBeVisible();
  await announce(late, link, "Oyelaran Adewale");
  await inLobby(late);
  await host.getByLabel("Find a name").fill("zzz");
  await expect(
    host.getByText("1 person waits, whom the search hides."),
  ).toBeVisible();
  await host.getByLabel("Find a name").fill("");
  await host.getByRole("button", { name: "Admit Oyelaran Adewale" }).click();
  await isInside(late);
  await host
    .getByRole("button", { name: /Take back: admitting Oyelaran/ })
    .click();
  await inLobby(late);
  await host
    .getByRole("button", { name: /Take back: locking the door/ })
    .click();
  await expect(
    host.getByRole("button", { name: /^Door .*attended/ }),
  ).toBeVisible();
  await late.context().close();
});

test("a link that leads nowhere, an expired cookie, and a browser that lacks what is needed are each told in a sentence", async ({
  browser,
}) => {
  const lost = await person(browser, court);
  await lost.goto(`${court.url}/s/AAAAAAAAAAAAAAAAAAAAAA`);
  await expect(lost.getByText("This link leads to no session.")).toBeVisible();
  await nothingForAxe(lost, "no such link");

  await announce(lost, link, "Marise Delacroix");
  await inLobby(lost);
  await lost.context().clearCookies();
  await lost.reload();
  await expect(
    lost.getByLabel("Your name, as others will see it"),
  ).toBeVisible();

  const old = await person(browser, court);
  await old.addInitScript(() => Reflect.deleteProperty(window, "VideoEncoder"));
  await old.goto(link);
  await expect(
    old.getByText("This browser cannot send or show pictures and voices here."),
  ).toBeVisible();
  await nothingForAxe(old, "unsupported");
  await old.context().close();
  await lost.context().close();
});

test("devices are tested at the door and in the lobby; whoever only listens opens none", async ({
  browser,
}) => {
  const guest = await person(browser, court);
  await guest.goto(link);
  await expect(
    guest.getByRole("meter", { name: "Microphone level" }),
  ).toBeVisible();
  await guest.getByRole("button", { name: "Record my voice" }).click();
  await expect(
    guest.getByRole("button", { name: "Recording… speak" }),
  ).toBeVisible();
  await guest.getByRole("button", { name: "Play a test sound" }).click();
  await guest.getByRole("button", { name: "Play it back" }).click();
  await expect(guest.getByRole("button", { name: "Playing…" })).toBeVisible();
  await expect(
    guest.getByRole("button", { name: "Play it back" }),
  ).toBeVisible();
  const cameras = guest.getByLabel("Camera", { exact: true });
  await cameras.selectOption({
    index: (await cameras.getByRole("option").count()) - 1,
  });
  await expect
    .poll(() =>
      guest
        .locator("video")
        .evaluate((video: HTMLVideoElement) => video.videoWidth),
    )
    .toBeGreaterThan(0);

  await guest.getByLabel("Listen only, without camera and microphone").check();
  await expect(
    guest.getByRole("meter", { name: "Microphone level" }),
  ).toHaveCount(0);
  await nothingForAxe(guest, "listen only");
  await guest
    .getByLabel("Your name, as others will see it")
    .fill("Linnet Osei");
  await guest.getByRole("button", { name: "Announce me" }).click();
  await inLobby(guest);
  await guest
    .getByRole("button", { name: "Test my microphone and sound" })
    .click();
  await expect(
    guest.getByRole("meter", { name: "Microphone level" }),
  ).toBeVisible();
  await nothingForAxe(guest, "testing in the lobby");
  await guest.getByRole("button", { name: "Leave the lobby" }).click();
  await expect(guest.getByRole("heading", { name: "You left" })).toBeVisible();
  await expect(
    host.locator("[data-bay=lobby]", { hasText: "Linnet Osei" }),
  ).toHaveCount(0);
  await guest.context().close();
});

test("who walks straight in has the microphone and the camera as wished, however quick the door is", async ({
  browser,
}) => {
  await host.keyboard.press("Escape");
  await host.keyboard.press("l");
  await host.getByRole("radio", { name: /All walk in/ }).click();
  await host.keyboard.press("Escape");
  await expect(
    host.getByRole("button", { name: /^Door .*open$/ }),
  ).toBeVisible();
  for (const name of [
    "Esther Lindqvist",
    "Ewa Brzezińska",
    "Kwabena Osei",
    "Teodor Quill",
  ]) {
    const guest = await person(browser, court);
    await announce(guest, link, name, { camera: true, microphone: true });
    await expect(guest.getByRole("button", { name: "Mic on" })).toBeVisible();
    await expect(guest.getByRole("button", { name: "Cam on" })).toBeVisible();
    await expect(
      guest.getByRole("alert").filter({ hasText: "lost" }),
    ).toHaveCount(0);
    await guest.context().close();
  }
  await host.keyboard.press("Control+z");
  await expect(
    host.getByRole("button", { name: /^Door .*attended/ }),
  ).toBeVisible();
});

test("a browser without a track processor shows its camera by another way, and stops it", async ({
  browser,
}) => {
  const guest = await person(browser, court);
  await guest.addInitScript(() =>
    Reflect.deleteProperty(window, "MediaStreamTrackProcessor"),
  );
  await announce(guest, link, "Mirembe Achan", { camera: true });
  await host.getByRole("button", { name: "Admit Mirembe Achan" }).click();
  await isInside(guest);
  await host.getByRole("button", { name: "Open Mirembe Achan" }).click();
  await host.getByRole("button", { name: "In front for me" }).click();
  await expect.poll(() => pictures(host, "Mirembe Achan")).toBeGreaterThan(5);
  await guest.getByRole("button", { name: "Cam on" }).click();
  await expect(
    host.getByRole("button", { name: "Turn off the camera of Mirembe Achan" }),
  ).toHaveCount(0);
  await guest.getByRole("button", { name: "Cam off" }).click();
  await expect(
    host.getByRole("button", { name: "Turn off the camera of Mirembe Achan" }),
  ).toBeVisible();
  const before = await pictures(host, "Mirembe Achan");
  await expect
    .poll(() => pictures(host, "Mirembe Achan"))
    .toBeGreaterThan(before + 5);
  await guest.context().close();
});

test("the page speaks the browser’s language until another is chosen, also in the command line", async ({
  browser,
}) => {
  const context = await browser.newContext({ locale: "pl-PL" });
  const page = await context.newPage();
  await page.goto(court.url);
  await expect(
    page.getByRole("heading", { name: "Zaloguj się, aby prowadzić" }),
  ).toBeVisible();
  await expect(page.locator("html")).toHaveAttribute("lang", "pl");
  await page.getByLabel("E-mail").fill("odalys@larkmoor.example.org");
  await page.getByLabel("Hasło").fill("heron-ferry-lantern");
  await page.getByRole("button", { name: "Zaloguj się", exact: true }).click();
  await page.getByLabel("Tytuł sesji").fill("Zebranie");
  await page.getByRole("button", { name: "Otwórz sesję teraz" }).click();
  await page.getByRole("button", { name: "Wejdź jako gospodarz" }).click();
  await expect(page.getByText("Nikt nie czeka.")).toBeVisible();
  await page.keyboard.press("/");
  await page.keyboard.type("przerwa na 5 min: Herbata");
  await expect(page.getByText("Enter: przerwa")).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(
    page.getByRole("complementary", { name: "Przerwa" }),
  ).toContainText("Herbata");
  await nothingForAxe(page, "the bench in Polish");
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Ustawienia" }).click();
  await page.getByRole("tab", { name: "Wygląd" }).click();
  await page.getByLabel("Język").selectOption("English");
  await expect(
    page.getByRole("button", { name: "End the recess" }),
  ).toBeVisible();
  await page.getByLabel("Size of the text").selectOption("130 %");
  await page.getByRole("radio", { name: "dark" }).click();
  await page.reload();
  await expect(
    page.getByRole("button", { name: "End the recess" }),
  ).toBeVisible();
  await nothingForAxe(page, "the bench in the dark with large text");
  await context.close();
});
