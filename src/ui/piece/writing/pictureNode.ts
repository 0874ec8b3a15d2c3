import { Node } from "@tiptap/core";
import { isId } from "@/core/ids";

/** What is pasted can say anything of itself: only what was uploaded is a picture here. */
export const pictureOf = (upload: string | undefined, alt: string | null) =>
  isId(upload) && { upload, alt: alt ?? "" };

/** A picture between paragraphs, as `core/text/richDoc` keeps it: the id of an upload and what it shows. */
export const PictureNode = Node.create({
  name: "picture",
  group: "standing",
  atom: true,
  draggable: true,
  addAttributes: () => ({ upload: { default: "" }, alt: { default: "" } }),
  parseHTML: () => [
    {
      tag: "img[data-upload]",
      getAttrs: (element) => pictureOf(element.dataset.upload, element.getAttribute("alt")),
    },
  ],
  renderHTML: ({ node }) => [
    "img",
    {
      "data-upload": node.attrs.upload as string,
      src: `/api/uploads/${node.attrs.upload as string}`,
      alt: node.attrs.alt as string,
      class: "my-3 max-h-96 w-auto max-w-full",
    },
  ],
});
