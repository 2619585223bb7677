/** The socket itself: connects again after every loss, rests while nobody looks, ends when the page is left. */
interface Handlers {
  opened: () => void;
  text: (message: string) => void;
  bytes: (message: ArrayBuffer) => void;
  closed: () => void;
}

const FIRST_PAUSE_MS = 250;
const LONGEST_PAUSE_MS = 2000;

let socket: WebSocket | null = null;
let pause = FIRST_PAUSE_MS;
let left = false;
let handlers: Handlers | null = null;

export function send(message: object): boolean {
  if (socket?.readyState !== WebSocket.OPEN) return false;
  socket.send(JSON.stringify(message));
  return true;
}

function connect(): void {
  if (left || !handlers) return;
  const { opened, text, bytes, closed } = handlers;
  const made = new WebSocket(`${location.protocol === "https:" ? "wss" : "ws"}://${location.host}/api/live`);
  socket = made;
  made.binaryType = "arraybuffer";
  made.onopen = () => {
    pause = FIRST_PAUSE_MS;
    opened();
  };
  made.onmessage = (event) => {
    if (typeof event.data === "string") text(event.data);
    else bytes(event.data);
  };
  made.onclose = () => {
    if (socket !== made) return;
    socket = null;
    closed();
    setTimeout(connect, pause);
    pause = Math.min(pause * 2, LONGEST_PAUSE_MS);
  };
}

/** Begins now, ends when the page is left, and begins again where the browser kept it to go back to: pages that were
 * left kept their connections, no longer read, and held everybody else up. */
export function whileShown(begin: () => void, end: () => void): void {
  window.addEventListener("pagehide", end);
  window.addEventListener("pageshow", (event) => {
    if (event.persisted) begin();
  });
  begin();
}

/** Called once. */
export function keepConnected(given: Handlers): void {
  handlers = given;
  whileShown(
    () => {
      left = false;
      connect();
    },
    () => {
      left = true;
      socket?.close();
      socket = null;
    },
  );
}
