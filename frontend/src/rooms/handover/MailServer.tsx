import Button from "@mui/material/Button";
import { useState } from "react";
import type { Mail } from "../../api/client";
import { setUpMail, useMail, type MailServer as Server } from "../../api/mail";
import { TypedField } from "../Typed";
import { UnfoldButton } from "../UnfoldButton";

const SECURITY = [
  ["starttls", "TLS, begun on the line (usual, 587)"],
  ["tls", "TLS from the start (465)"],
  ["none", "none, only inside an office"],
] as const;

/** Which server takes the mail, and the form to set one up. */
export function MailServer() {
  const mail = useMail();
  const [open, setOpen] = useState(false);
  if (!mail) return null;
  return (
    <div className="mail-server">
      <p>
        {wordsOf(mail)}{" "}
        <UnfoldButton open={open} onChange={setOpen}>
          {open ? "Leave it so" : mail.is_own ? "Change it" : "Set a mail server up"}
        </UnfoldButton>
        {mail.is_own && (
          <>
            {" · "}
            <button type="button" className="choice" onClick={() => void setUpMail(null)}>
              Forget it
            </button>
          </>
        )}
      </p>
      {open && (
        <ServerForm
          mail={mail}
          onDone={() => {
            setOpen(false);
          }}
        />
      )}
    </div>
  );
}

function wordsOf(mail: Mail): string {
  if (!mail.host) return "No mail server is set up: a draft or a copy goes to your own mail program.";
  if (!mail.is_own) return "Mail goes to the postbox, which delivers to nobody outside.";
  const who = mail.user ? `, signed in as ${mail.user}` : "";
  return `Mail goes to ${mail.host}, port ${String(mail.port)}${who}.`;
}

function ServerForm({ mail, onDone }: { mail: Mail; onDone: () => void }) {
  const own = mail.is_own ? mail : null;
  const [server, setServer] = useState<Server>({
    host: own?.host ?? "",
    port: own?.port ?? 587,
    security: own?.security ?? "starttls",
    user: own?.user ?? "",
    password: "",
  });
  const change = (changed: Partial<Server>) => {
    setServer({ ...server, ...changed });
  };
  return (
    <form
      className="server-form"
      aria-label="Mail server"
      onSubmit={(event) => {
        event.preventDefault();
        void setUpMail(server).then((done) => {
          if (done) onDone();
        });
      }}
    >
      <TypedField
        id="mail-server"
        label="Server"
        value={server.host}
        hint="mail.example"
        onChange={(host) => {
          change({ host });
        }}
      />
      <TypedField
        id="mail-port"
        label="Port"
        value={server.port ? server.port.toString() : ""}
        onChange={(port) => {
          change({ port: Number.parseInt(port, 10) || 0 });
        }}
      />
      <label htmlFor="mail-security">
        <span>Security</span>
        <select
          id="mail-security"
          value={server.security}
          onChange={(event) => {
            change({ security: SECURITY.find(([name]) => name === event.target.value)?.[0] ?? "starttls" });
          }}
        >
          {SECURITY.map(([name, words]) => (
            <option key={name} value={name}>
              {words}
            </option>
          ))}
        </select>
      </label>
      <TypedField
        id="mail-user"
        label="User"
        value={server.user}
        hint="none"
        onChange={(user) => {
          change({ user });
        }}
      />
      <TypedField
        id="mail-password"
        label="Password"
        value={server.password}
        type="password"
        hint={own?.has_password ? "as it is" : ""}
        onChange={(password) => {
          change({ password });
        }}
      />
      <Button type="submit" variant="contained" disabled={server.host.trim() === "" || server.port < 1}>
        Use this server
      </Button>
    </form>
  );
}
