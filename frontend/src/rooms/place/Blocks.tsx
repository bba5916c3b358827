import { memo } from "react";
import { takePictureOut } from "../../api/bench";
import { pictureUrl, type Block, type Container } from "../../api/client";
import { ForeignPicture } from "../ForeignPicture";
import { toPx, useGalley } from "./GalleyContext";
import { SpotWithPictures } from "./SpotMark";

/** The blocks of a container with the spots between them. */
export function ContainerView({ content }: { content: Container }) {
  return (
    <>
      <Spots ids={content.spots} />
      {content.blocks.map((block) => (
        <BlockView key={block.id} block={block} />
      ))}
    </>
  );
}

export function Spots({ ids }: { ids: string[] }) {
  return ids.map((id) => <SpotWithPictures key={id} id={id} />);
}

export const BlockView = memo(function BlockView({ block }: { block: Block }) {
  return (
    <>
      <BlockBody block={block} />
      <Spots ids={block.spots} />
    </>
  );
});

function BlockBody({ block }: { block: Block }) {
  if (block.kind === "table") return <TableView block={block} />;
  if (block.content) {
    return (
      <div className="block-control" data-block={block.id}>
        <ContainerView content={block.content} />
      </div>
    );
  }
  const words = block.text ? <Words block={block} /> : null;
  return (
    <>
      {words}
      <Pictures block={block} />
    </>
  );
}

function Words({ block }: { block: Block }) {
  const heading = block.kind === "heading" || block.kind === "title";
  const level = block.kind === "title" ? 1 : Math.min(block.level + 1, 6);
  const name = heading ? `block-heading block-h${Math.min(level, 4).toString()}` : `block-${block.kind}`;
  if (heading) {
    return (
      <p className={name} dir="auto" role="heading" aria-level={level} data-block={block.id}>
        {block.text}
      </p>
    );
  }
  return (
    <p className={name} dir="auto" data-block={block.id}>
      {block.text}
    </p>
  );
}

/** Pictures that were in the document before, at the size and with the crop that they have there. */
function Pictures({ block }: { block: Block }) {
  const { destination, pxPerMm, sets } = useGalley();
  return block.pictures.map((picture, index) => {
    const name = picture.member.split("/").at(-1) ?? "";
    return (
      <div key={`${picture.member}-${index.toString()}`} className="block-figure">
        <ForeignPicture
          className="block-picture"
          src={pictureUrl.media(destination, picture)}
          alt={`In the document: ${name}`}
          style={{
            width: toPx(picture.width_emu, pxPerMm),
            aspectRatio: `${picture.width_emu.toString()} / ${picture.height_emu.toString()}`,
          }}
        />
        {sets && (
          <button
            type="button"
            className="block-take"
            aria-label={`Take ${name} to the rack`}
            onClick={() => void takePictureOut(destination, picture)}
          >
            Take to the rack
          </button>
        )}
      </div>
    );
  });
}

function TableView({ block }: { block: Block }) {
  const { pxPerMm } = useGalley();
  return (
    <table className="block-table" data-block={block.id}>
      <tbody>
        {block.rows.map((row, index) => (
          // Rows have no name of their own and never change their order.
          <tr key={index}>
            {row.map((cell, column) => (
              <td
                key={column}
                colSpan={cell.column_span}
                rowSpan={cell.row_span}
                style={{ width: toPx(cell.width_emu, pxPerMm) }}
              >
                <ContainerView content={cell.content} />
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
