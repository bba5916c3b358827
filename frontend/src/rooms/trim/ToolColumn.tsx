import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import { memo, useState } from "react";
import { useOptions } from "../../api/options";
import { keyOf, readable, useKeyOf } from "../../api/keys";
import { ToolIcon } from "./icons";
import { pickTool, useTrim } from "./state";
import { MORE, TOOLS, type Tool } from "./tools";

/** The tools beside the mat, in groups; a change of the picture does not concern them. */
export const ToolColumn = memo(function ToolColumn() {
  const tool = useTrim((state) => state.tool);
  const options = useOptions();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const other = MORE.find((each) => each.id === tool);
  return (
    <div className="tools" role="toolbar" aria-label="Tools" aria-orientation="vertical">
      {TOOLS.map((group) => (
        <div key={group[0]?.id} className="tool-group">
          {group.map((each) => (
            <ToolButton key={each.id} tool={each} inHand={each.id === tool} />
          ))}
        </div>
      ))}
      <div className="tool-group">
        <button
          type="button"
          className="tool"
          aria-haspopup="menu"
          aria-expanded={anchor !== null}
          aria-pressed={other !== undefined}
          onClick={(event) => {
            setAnchor(event.currentTarget);
          }}
        >
          <ToolIcon name="more" />
          More
        </button>
        <Menu
          anchorEl={anchor}
          open={anchor !== null}
          onClose={() => {
            setAnchor(null);
          }}
        >
          {MORE.map((each) => (
            <MenuItem
              key={each.id}
              onClick={() => {
                setAnchor(null);
                pickTool(each.id);
              }}
            >
              {each.name}
              <kbd className="menu-key">{readable(keyOf(options, `tool-${each.id}`) ?? "")}</kbd>
            </MenuItem>
          ))}
        </Menu>
      </div>
    </div>
  );
});

function ToolButton({ tool, inHand }: { tool: Tool; inHand: boolean }) {
  const key = useKeyOf(`tool-${tool.id}`);
  return (
    <button
      type="button"
      className="tool"
      aria-pressed={inHand}
      title={key ? `${tool.name} (${key})` : tool.name}
      onClick={() => {
        pickTool(tool.id);
      }}
    >
      <ToolIcon name={tool.id} />
      {tool.name}
    </button>
  );
}
