/** The settings screen: keys, feel, profile. Worked by keyboard, mouse or pad. */
import { useMemo } from "react";
import {
  Button,
  Dialog,
  Heading,
  Modal,
  ModalOverlay,
  Tab,
  TabList,
  TabPanel,
  Tabs,
} from "react-aria-components";
import { prompt } from "reacher/rebind";
import { ControlSign } from "./ControlSign";
import { FeelTab } from "./FeelTab";
import { KeysTab } from "./KeysTab";
import { ProfileTab } from "./ProfileTab";
import type { Session } from "./session";

interface Props {
  readonly session: Session;
  onClose(): void;
}

/** The page draws itself ten times a second; the screen, when something in it has changed. */
export function Settings({ session, onClose }: Props) {
  const { shown, two, labelled } = session;
  const { editor, profile, names } = shown.settings;
  const { overrides } = editor;
  const { lastDevice } = shown.seat;
  return useMemo(
    () => <Screen session={session} onClose={onClose} />,
    [session, shown, two, labelled, editor, overrides, profile, names, lastDevice],
  );
}

function Screen({ session, onClose }: Props) {
  const { editor } = session.shown.settings;
  const changes =
    Object.keys(editor.overrides.controls ?? {}).length + Object.keys(editor.overrides.settings ?? {}).length;
  const lacking = [...new Set(editor.missing.map((address) => session.labelOf(address.split(".")[0]!)))];
  // A key may be cleared on the way, and nobody leaves without one.
  const leave = () => editor.finished && onClose();
  return (
    <ModalOverlay isOpen onOpenChange={(open) => !open && leave()} className="overlay">
      <Modal className="modal wide">
        <Dialog className="settings" data-testid="settings">
          <Heading slot="title">
            Settings of <span className={session.shown.name}>{session.shown.name}</span>
          </Heading>
          <Tabs className="tabs" defaultSelectedKey="keys">
            <TabList aria-label="Settings">
              <Tab id="keys">Keys</Tab>
              <Tab id="feel">Feel</Tab>
              <Tab id="profile">Profile</Tab>
            </TabList>
            <TabPanel id="keys">
              <KeysTab session={session} />
            </TabPanel>
            <TabPanel id="feel">
              <FeelTab session={session} />
            </TabPanel>
            <TabPanel id="profile">
              <ProfileTab session={session} />
            </TabPanel>
          </Tabs>
          <footer className="row">
            <span className="note" role="status" data-testid="summary">
              {changes === 0 ? "No changes" : `${changes} ${changes === 1 ? "thing" : "things"} changed`}
              {` · ${session.shown.settings.profile}`}
            </span>
            {lacking.length > 0 && (
              <span className="note lacking" role="alert" data-testid="lacking">
                {lacking.join(" and ")} {lacking.length === 1 ? "has" : "have"} no key: choose one before you
                leave
              </span>
            )}
            <PadHint session={session} />
            <Button
              className="react-aria-Button quiet"
              isDisabled={editor.undoable === 0}
              onPress={() => editor.undo()}
            >
              Undo
            </Button>
            <Button
              className="react-aria-Button quiet"
              isDisabled={changes === 0}
              onPress={() => editor.reset("*")}
            >
              Reset all
            </Button>
            <Button isDisabled={!editor.finished} onPress={leave}>
              Done
            </Button>
          </footer>
        </Dialog>
      </Modal>
    </ModalOverlay>
  );
}

/** How a pad works this screen, while a pad is what its player uses. */
function PadHint({ session: { shown, labels } }: { session: Session }) {
  if (shown.seat.lastDevice !== "pad") return null;
  const [choose, back] = (["choose", "back"] as const).map((action) =>
    prompt(shown.seat, action, labels.label),
  );
  return (
    <span className="note">
      <ControlSign parts={choose!.parts} /> chooses · <ControlSign parts={back!.parts} /> goes back
    </span>
  );
}
