import { Marked } from "marked";

const TEXTS = import.meta.glob<string>("../../../../docs/guide/*.md", {
  query: "?raw",
  import: "default",
  eager: true,
});

export interface GuidePage {
  key: string;
  title: string;
  text: string;
  html: string;
}

/** In the order they are read in. */
const ORDER = ["first", "book", "bench", "stove", "day", "shelf", "trouble", "log", "practice", "kitchen"];

const marked = new Marked({
  renderer: {
    // The pictures are of the very pages one is looking at.
    image: () => "",
    link({ href, tokens }) {
      const page = href.match(/^([a-z]+)\.md$/)?.[1];
      const said = this.parser.parseInline(tokens);
      return page ? `<a data-page="${page}" href="#${page}">${said}</a>` : said;
    },
  },
});

function pageOf(key: string, text: string): GuidePage {
  const title = text.match(/^# (.+)$/m)?.[1] ?? key;
  const body = text.replace(/^# .+$/m, "");
  return { key, title, text: body, html: marked.parse(body, { async: false }) };
}

const found = Object.entries(TEXTS).map(([path, text]) => {
  const key = path.match(/([a-z]+)\.md$/)?.[1] ?? "";
  return [key, text] as const;
});

/** The guide for cooks, the very text that stands in the handbook. */
export const PAGES: readonly GuidePage[] = ORDER.flatMap((key) => {
  const text = found.find(([name]) => name === key)?.[1];
  return text ? [pageOf(key, text)] : [];
});

/** Which page belongs to an address. */
export function pageFor(pathname: string): string {
  const [, place = "", more] = pathname.match(/^\/k\/[^/]+\/([a-z]+)(?:\/([^/]+))?/) ?? [];
  if (place === "book" && more !== undefined && more !== "import" && more !== "compare") return "bench";
  return PAGES.some((one) => one.key === place) ? place : "first";
}

/** The pages that hold all the words, each with the piece of it that does. */
export function searched(words: string): { page: GuidePage; piece: string }[] {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  if (wanted.length === 0) return [];
  return PAGES.flatMap((page) => {
    const pieces = page.text.split(/\n\s*\n/);
    return pieces
      .filter((piece) => wanted.every((word) => piece.toLowerCase().includes(word)))
      .slice(0, 3)
      .map((piece) => ({ page, piece: plainly(piece) }));
  });
}

const plainly = (piece: string) =>
  piece
    .replace(/!\[[^\]]*\]\([^)]*\)/g, "")
    .replace(/\[([^\]]*)\]\([^)]*\)/g, "$1")
    .replace(/[*`#]/g, "")
    .replace(/\s+/g, " ")
    .trim();
