import type { Command, Header, Row, Target } from '@nettle-patch/core';

/** A row as it leaves the page: the header, or any other. */
export type OutgoingRow = Header | Row;

/** From the page to its sender. */
export type ToSender =
  | {
      readonly type: 'connect';
      readonly socketUrl: string;
      readonly joinUrl: string;
      readonly secret: string;
    }
  | { readonly type: 'target'; readonly target: Target }
  | {
      readonly type: 'batch';
      readonly recordingId: string;
      readonly sequence: number;
      readonly rows: readonly OutgoingRow[];
      readonly last: boolean;
    };

/** From the sender to the page. */
export type FromSender = { readonly type: 'command'; readonly command: Command };
