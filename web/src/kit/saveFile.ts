/** Hands the browser a file to keep. */
export function keepBlob(blob: Blob, name: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(blob);
  link.download = name.replaceAll(/[^\w.-]+/g, "-").toLowerCase();
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}

/** Asks the server for a file and hands it to the browser to keep; says what went wrong, or nothing. */
export async function saveFile(url: string, body: string, name: string): Promise<string | null> {
  try {
    const reply = await fetch(url, {
      method: "POST",
      body,
      headers: { "Content-Type": "application/json" },
    });
    if (!reply.ok) return "The file could not be made.";
    keepBlob(await reply.blob(), name);
    return null;
  } catch {
    return "The server did not answer.";
  }
}
