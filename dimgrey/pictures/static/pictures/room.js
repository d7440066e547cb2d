// Files for which there is no room are not sent: asked once before, where the house gives each person so much.
export async function noRoomFor(files) {
  const size = [...files].reduce((sum, file) => sum + file.size, 0);
  const answer = await fetch("/pictures/room").catch(() => null);
  const left = answer?.ok ? (await answer.json()).left : null;
  if (left === null || size <= left) return "";
  const mb = (bytes) => (bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0);
  const more = "Delete what you removed, or ask an owner of the house for more room.";
  return `Not sent: ${mb(size)} MB, and you have room for ${mb(left)} MB. ${more}`;
}
