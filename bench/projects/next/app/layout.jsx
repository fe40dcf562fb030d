const TELL = 'TELL_ERRORS';

export const metadata = { title: 'Skerry Line', icons: 'data:,' };

export default function Layout({ children }) {
  return (
    <html lang="en">
      <head>
        <script dangerouslySetInnerHTML={{ __html: TELL }} />
      </head>
      <body>{children}</body>
    </html>
  );
}
