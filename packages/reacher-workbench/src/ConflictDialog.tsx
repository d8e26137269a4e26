/** Asks whose text counts, where the page and another editor have both changed it. */
import { Button, Dialog, Heading, Modal, ModalOverlay } from "react-aria-components";
import type { Session } from "./session";

export function ConflictDialog({ session }: { session: Session }) {
  const { conflict } = session;
  return (
    <ModalOverlay isOpen className="overlay">
      <Modal className="modal">
        <Dialog role="alertdialog">
          <Heading slot="title">{session.file} was changed elsewhere</Heading>
          <p>The file and this page differ. Which one do you want to keep?</p>
          <div className="buttons">
            <Button autoFocus onPress={() => conflict && session.takeFile(conflict.text, conflict.version)}>
              Take the file&apos;s
            </Button>
            <Button onPress={() => session.keepOwn()}>Keep mine; Save writes over it</Button>
          </div>
        </Dialog>
      </Modal>
    </ModalOverlay>
  );
}
