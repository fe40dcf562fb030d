const TELL =
  'addEventListener("error",(e)=>tell(e.message));addEventListener("unhandledrejection",(e)=>tell(String(e.reason)));{const{error}=console;console.error=(...all)=>{tell(all.join(" "));error(...all)}}function tell(text){navigator.sendBeacon("TALLY",text)}';

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
