import { Node } from "@tiptap/core";

/** A picture between paragraphs, as `core/text/richDoc` keeps it: the id of an upload and what it shows. */
export const PictureNode = Node.create({
  name: "picture",
  group: "block",
  atom: true,
  draggable: true,
  addAttributes: () => ({ upload: { default: "" }, alt: { default: "" } }),
  parseHTML: () => [
    {
      tag: "img[data-upload]",
      getAttrs: (element) => ({
        upload: element.getAttribute("data-upload"),
        alt: element.getAttribute("alt") ?? "",
      }),
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
