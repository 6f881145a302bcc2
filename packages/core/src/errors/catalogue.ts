/** What an error entry says. `{name}` in a text is filled from the details. */
export interface ErrorEntry {
  status: number;
  message: string;
  next: string;
}

/** Every error Arkiv answers with. Codes are never used again for something else; docs/errors.md lists them. */
export const ERRORS = {
  'request.invalid': {
    status: 400,
    message: 'The request cannot be read: {reason}',
    next: 'Put the named fields right and send it again.',
  },
  'request.foreign': {
    status: 403,
    message: 'This request did not come from Arkiv’s own pages ({reason}).',
    next: 'Open Arkiv under its own address.',
  },
  'not-found': {
    status: 404,
    message: 'There is no {what} “{id}”.',
    next: 'Go back to the Desk and choose again.',
  },
  'find.gone': {
    status: 410,
    message: 'What was found is not kept any more.',
    next: 'Look for it again.',
  },
  'pile.exists': {
    status: 409,
    message: 'There is a pile “{pile}” already.',
    next: 'Choose it, or give the new one another name.',
  },
  'album.exists': {
    status: 409,
    message: 'There is an album “{album}” there already.',
    next: 'Choose it, or give this one another name.',
  },
  'album.within': {
    status: 409,
    message: '“{album}” cannot stand there: {reason}.',
    next: 'Choose another album for it, or none. It stays where it is.',
  },
  'album.rule': {
    status: 409,
    message: '“{album}” is filled by its rule: frames are not put into it by hand.',
    next: 'Change its rule, or put them into another album.',
  },
  'album.line': {
    status: 400,
    message: 'This rule cannot be followed: {reason}',
    next: 'Change the line; nothing was kept.',
  },
  'album.text': {
    status: 400,
    message: '“{file}” cannot be read as albums: {reason}',
    next: 'Choose a list of names, one a line, or albums that Arkiv wrote. Nothing was brought in.',
  },
  'opening.elsewhere': {
    status: 403,
    message: 'Files are opened only on the computer on which Arkiv runs.',
    next: 'Go to that computer, or deliver a copy.',
  },
  'opening.failed': {
    status: 409,
    message: '“{program}” could not be started: {reason}.',
    next: 'Look at it in Studio, under This machine. No file was touched.',
  },
  'opening.nothing': {
    status: 409,
    message: 'These frames have no file that could be opened.',
    next: 'Choose others.',
  },
  'pass.frames': {
    status: 409,
    message: 'A pass has {most} frames at most, and at least one; these are {frames}.',
    next: 'Choose fewer, or others: keepers alone, or one shoot.',
  },
  'pass.arranged': {
    status: 409,
    message: 'Frames of the pass “{name}” went into another shoot meanwhile.',
    next: 'Go on with it: it is asked for anew, and what was seen stays seen.',
  },
  'take.shoots': {
    status: 409,
    message: 'These frames are of several shoots.',
    next: 'A take is of one shoot: choose frames of one, or leave them where they are.',
  },
  'duplicate.more': {
    status: 409,
    message: '“{frame}” has a file, or more proven copies of one, that “{other}” has not.',
    next: 'Look again: it stays, or let it stay in place of the other. Nothing was put into the bin.',
  },
  'bin.typed': {
    status: 409,
    message: 'It is {frames} frames that would be deleted, and {typed} was typed.',
    next: 'Look again, and type the number of frames. Nothing was deleted.',
  },
  'bin.away': {
    status: 409,
    message: 'No copy of “{file}” can be reached: {volumes} is not connected.',
    next: 'Plug it in and bring the frame back then; it stays where it is.',
  },
  'bin.changed': {
    status: 409,
    message: '“{file}” on “{volume}” is another file than the one that was put there.',
    next: 'Look at it yourself; it was not deleted.',
  },
  'path.outside': {
    status: 400,
    message: '“{path}” leads out of the drive “{volume}”: {reason}.',
    next: 'Use a path below the drive, without links and dot segments.',
  },
  'volume.offline': {
    status: 409,
    message: 'The drive “{volume}” is not connected.',
    next: 'Plug it in and try again; nothing was changed.',
  },
  'volume.silent': {
    status: 409,
    message: 'The drive “{volume}” is there and does not answer.',
    next: 'Check its cable or its network; work on it goes on when it answers. Nothing else is held up.',
  },
  'volume.eject': {
    status: 409,
    message: '“{volume}” could not be ejected: {reason}.',
    next: 'Let the computer eject it, and pull it out only then.',
  },
  'volume.changed': {
    status: 409,
    message: 'The place of drive “{volume}” now holds another drive.',
    next: 'Plug in the right drive or add this one as a new drive.',
  },
  'volume.full': {
    status: 507,
    message: '“{volume}” is full: {needed} bytes are needed, {free} are free. {file}',
    next: 'Free some space or choose another drive, then resume.',
  },
  'volume.read-only': {
    status: 409,
    message: '“{volume}” cannot be written to: {reason}.',
    next: 'Make it writable or choose another drive.',
  },
  'volume.belongs': {
    status: 409,
    message: '“{path}” is a drive of the archive “{archive}”.',
    next: 'Open that archive; or give this one a folder of its own on the drive; or make the drive this archive’s, which leaves what lies on it as it is.',
  },
  'volume.taken': {
    status: 409,
    message: 'The drive “{volume}” belongs to the archive “{archive}” now.',
    next: 'Make it this archive’s again under Studio, Drives and copies, or work in that archive. Nothing was changed.',
  },
  'volume.duplicate': {
    status: 409,
    message: 'A drive with the id of “{volume}” is already here.',
    next: 'Two copies of one drive cannot both be used; remove one.',
  },
  'volume.folder': {
    status: 400,
    message: '“{path}” cannot be a drive: {reason}.',
    next: 'Choose an existing folder that can be written to.',
  },
  'card.none': { status: 409, message: 'There is no card in reader “{reader}”.', next: 'Insert a card.' },
  'card.eject': {
    status: 409,
    message: '“{card}” could not be ejected: {reason}.',
    next: 'Nothing is being written to it: let the computer eject it, then take it out.',
  },
  'card.vanished': {
    status: 409,
    message: 'The card in reader “{reader}” went away while {file} was read.',
    next: 'Insert the same card again; the intake carries on where it stopped.',
  },
  'card.other': {
    status: 409,
    message: 'Another card is in reader “{reader}” than the one this intake began with.',
    next: 'Insert the card that was there before.',
  },
  'file.unreadable': {
    status: 422,
    message: '{file} cannot be read: {reason}.',
    next: 'Try another reader or cable; the other files go on.',
  },
  'file.gone': {
    status: 404,
    message: '{file} does not lie on {drives} any more, where the archive has it{away}.',
    next: 'Under Files of its shoot, verify all again: what is missing is named there, and made again from another copy.',
  },
  'file.exists': {
    status: 409,
    message: '{file} exists already with other content.',
    next: 'Nothing was overwritten. Change the name pattern or move the other file.',
  },
  'file.mismatch': {
    status: 422,
    message: 'The copy {file} differs from its source: expected {expected}, found {found}.',
    next: 'The bad copy was removed. Check the drive and try again.',
  },
  'picture.undecodable': {
    status: 422,
    message: '{file} cannot be decoded: {reason}.',
    next: 'The file itself is kept as it is; open it in another program to see what is left.',
  },
  'picture.none': {
    status: 404,
    message: '{file} holds no picture that can be shown: {format} is not decoded here.',
    next: 'Nothing to do: the file is kept and copied like all others.',
  },
  'picture.clip': {
    status: 404,
    message: '{file} is a clip, and no still picture of it can be made on this machine.',
    next: 'It is kept, copied and marked like all others. With ffmpeg installed, one frame of it is shown.',
  },
  'access.needed': {
    status: 401,
    message: 'This archive asks for the studio password.',
    next: 'Sign in.',
  },
  'access.wrong': {
    status: 403,
    message: 'This is not the studio password.',
    next: 'Try again. Whoever has access to the machine can set a new one.',
  },
  'access.slow': {
    status: 429,
    message: 'Too many wrong tries came from here.',
    next: 'Try again in {seconds} seconds.',
  },
  'access.weak': {
    status: 422,
    message: 'The studio password needs {least} to 200 characters.',
    next: 'Take a longer one: a few words that belong to nothing are easy to keep.',
  },
  'access.password': {
    status: 403,
    message: 'Arkiv is not opened to other machines without a studio password.',
    next: 'Start it for this machine alone, set one in Studio, and start it again; or name a file that holds one by ARKIV_PASSWORD_FILE.',
  },
  'access.certificate': {
    status: 500,
    message: 'The certificate {file} cannot be used: {reason}.',
    next: 'Name a certificate and its private key as PEM files, or none: then Arkiv makes one.',
  },
  'plan.problems': {
    status: 422,
    message: 'The plan has {count} problems; the first: {first}',
    next: 'Change the pattern or the shoot’s title until the plan is clean.',
  },
  'intake.overtaken': {
    status: 409,
    message: 'Another card was added to “{shoot}” at the same moment.',
    next: 'Start again: the numbers carry on after the other card’s.',
  },
  'marks.invalid': {
    status: 400,
    message: 'A mark cannot be applied: {reason}.',
    next: 'Reload the page; the marks made before are kept.',
  },
  'vocabulary.refused': {
    status: 409,
    message: 'The vocabulary cannot be changed so. {reason}',
    next: 'Choose another word or another place; nothing was changed.',
  },
  'vocabulary.text': {
    status: 422,
    message: 'The list of terms cannot be read: {reason}.',
    next: 'Put the named line right, or choose the format that it is written in; nothing was brought in.',
  },
  'sidecar.malformed': {
    status: 422,
    message: 'The sidecar {file} cannot be read: {reason}.',
    next: 'Repair or move it; until then its marks stay in the archive only.',
  },
  'job.state': {
    status: 409,
    message: 'The job is {state} and cannot be {action}.',
    next: 'Reload the page to see where it stands.',
  },
  'job.nothing': {
    status: 409,
    message: 'No frames are chosen by the studio’s keeper rule ({rule}).',
    next: 'Mark keepers in Cull first.',
  },
  'handoff.folder': {
    status: 422,
    message: 'Copies cannot go into the folder “{folder}” of the shoot: {reason}.',
    next: 'Choose another name for the copies’ folder.',
  },
  'delivery.unfinished': {
    status: 409,
    message: '{file} has no finished picture that could go as it is: all there is of it is a raw file.',
    next: 'Deliver it by a spec that makes a picture, or save its edit into the shoot’s folder for edits.',
  },
  'delivery.large': {
    status: 409,
    message:
      '{file} cannot be made smaller than {bytes} bytes by its quality alone; at most {most} are wanted.',
    next: 'Give the spec a smaller size in pixels, or a higher limit.',
  },
  'delivery.changed': {
    status: 409,
    message: '{file} in the set is another file than the one that was made: it stays as it is.',
    next: 'Move that file out of the set’s folder if it is wanted, then bring the set up to date again.',
  },
  'delivery.old': {
    status: 409,
    message: '“{name}” was brought up to date since, or is being so now.',
    next: 'Take the newest of this set. Nothing was changed.',
  },
  'watermark.unreadable': {
    status: 422,
    message: 'This picture cannot lie over others: {reason}.',
    next: 'Choose a PNG of at most 5 MB, best with a transparent ground. Nothing was kept.',
  },
  'destination.exists': {
    status: 409,
    message: 'There is a destination “{name}” already.',
    next: 'Change that one, or give this one another name.',
  },
  'gallery.closed': {
    status: 409,
    message: '“{name}” is closed: nobody outside sees it.',
    next: 'Open it again first.',
  },
  'gallery.full': {
    status: 409,
    message: 'All {most} pictures are chosen.',
    next: 'Take one back first, then choose another.',
  },
  'gallery.none': {
    status: 404,
    message: 'There is nothing at this address.',
    next: 'Check the link, or ask whoever sent it.',
  },
  'gallery.over': {
    status: 410,
    message: 'This gallery is closed.',
    next: 'Ask whoever sent the link to open it again.',
  },
  'gallery.enter': {
    status: 401,
    message: 'Nobody has come in here with this browser, or too long ago.',
    next: 'Open the link again and come in.',
  },
  'gallery.code': {
    status: 401,
    message: 'This code does not open the gallery.',
    next: 'Check it letter by letter: it stands beside the link.',
  },
  'gallery.right': {
    status: 403,
    message: 'This link does not allow that.',
    next: 'Ask whoever sent it.',
  },
  'gallery.much': {
    status: 429,
    message: 'Too much was asked for at once.',
    next: 'Wait a minute, then go on.',
  },
  'gallery.away': {
    status: 503,
    message: 'The files of “{name}” are out of reach at the moment.',
    next: 'Try again later: the drive that they lie on has to be connected first.',
  },
  'mail.none': {
    status: 409,
    message: 'No mail server is named.',
    next: 'Name one in Studio, under Mail.',
  },
  'mail.secret': {
    status: 409,
    message: 'The mail server’s password cannot be read: it was kept under another key.',
    next: 'Give it again, in Studio under Mail. Nothing was sent.',
  },
  'mail.away': {
    status: 409,
    message: 'The mail server “{server}” cannot be reached: {reason}.',
    next: 'Look at its name and port in Studio, under Mail, and at the line. Nothing was sent.',
  },
  'mail.login': {
    status: 409,
    message: 'The mail server “{server}” lets nobody in with this name and password: {reason}.',
    next: 'Put them right in Studio, under Mail. Nothing was sent.',
  },
  'mail.recipient': {
    status: 409,
    message: 'The mail server takes nothing for {to}: {reason}.',
    next: 'Put the address right, and send it again.',
  },
  'mail.refused': {
    status: 409,
    message: 'The mail server “{server}” did not take the message: {reason}.',
    next: 'Do as it says, and send it again.',
  },
  'message.large': {
    status: 409,
    message: 'These pictures are {bytes} bytes: more than the {most} that mail servers take.',
    next: 'Take a smaller output spec, fewer pictures, or make a gallery. Nothing was sent.',
  },
  'destination.secret': {
    status: 409,
    message: 'What opens “{name}” cannot be read: it was kept under another key.',
    next: 'Give its password or key again, in Studio under Destinations.',
  },
  'destination.refused': {
    status: 409,
    message: '“{name}” turned us away: {reason}.',
    next: 'Put name, password or key right in Studio under Destinations, and try again. What is there stays.',
  },
  'destination.away': {
    status: 503,
    message: '“{name}” cannot be reached: {reason}.',
    next: 'Try again when it is there: what has arrived is not sent twice.',
  },
  'destination.full': {
    status: 507,
    message: '“{name}” has no room: {reason}.',
    next: 'Make room there, and try again: what has arrived is not sent twice.',
  },
  'destination.taken': {
    status: 409,
    message: 'At “{name}” {reason}: it is not written over.',
    next: 'Move it away there, or make the set under another name.',
  },
  'destination.changed': {
    status: 502,
    message: '“{name}” gave back something else: {reason}. It was taken away there.',
    next: 'Try again. If it stays so, its disk or the way to it is damaged.',
  },
  'destination.source': {
    status: 409,
    message: 'It was not sent to “{name}”: {reason}.',
    next: 'Bring the set up to date, and send it again.',
  },
  'destination.key': {
    status: 409,
    message: '“{name}” may be another server: {reason}.',
    next: 'Ask whoever runs it. If its key was changed on purpose, trust the new one in Studio under Destinations.',
  },
  'destination.untrusted': {
    status: 409,
    message: 'Nobody has looked at the key of “{name}” yet.',
    next: 'Try it in Studio under Destinations, and trust its key if it is the right one. Nothing was sent.',
  },
  'destination.folder': {
    status: 409,
    message: '“{name}” cannot be used: {reason}.',
    next: 'Make the folder there, or put its address right in Studio under Destinations.',
  },
  'destination.failed': {
    status: 502,
    message: '“{name}” refused it: {reason}.',
    next: 'Try again, or look at that server’s own log.',
  },
  'destination.nothing': {
    status: 409,
    message: 'Nothing of “{name}” is there that could be sent.',
    next: 'Choose other frames, or bring the set up to date.',
  },
  'handoff.changed': {
    status: 409,
    message: '{file} was changed where it lies with editing: it stays as it is.',
    next: 'Take the copy back, or hand off into another folder. The archive’s own file is as it was.',
  },
  'handoff.nothing': {
    status: 409,
    message: 'On “{volume}” everything is as it should be: there is nothing to do.',
    next: 'Go on: nothing was changed.',
  },
  'copies.none': {
    status: 409,
    message: 'There are no copies to work on: {reason}.',
    next: 'Plug in the drive that is meant, or go on: nothing was changed.',
  },
  'card.busy': {
    status: 409,
    message: '“{title}” is still working on the card in reader “{reader}”.',
    next: 'Wait until it is done, or stop it first.',
  },
  'card.archive': {
    status: 409,
    message: '“{reader}” lies on the drive “{volume}” or holds it: what is archived is not cleared.',
    next: 'Clear cards and other sources only; nothing was deleted.',
  },
  'move.adopted': {
    status: 409,
    message: '“{shoot}” lies in an adopted folder, and nothing is put into that.',
    next: 'Take it in first (Files, Take in), or choose another shoot; nothing was changed.',
  },
  'move.busy': {
    status: 409,
    message: 'Another job is still working on “{shoot}”.',
    next: 'Wait until it is done, or stop it first; nothing was moved.',
  },
  'move.away': {
    status: 409,
    message: '{files} files of “{shoot}” lie on “{volume}”, which is not connected.',
    next: 'Plug it in: files and their copies move together, and nothing was moved yet.',
  },
  'move.nothing': {
    status: 409,
    message: 'There is nothing to move: {reason}.',
    next: 'Choose other frames or another shoot.',
  },
  'move.undone': {
    status: 409,
    message: 'This cannot be undone any more: {reason}.',
    next: 'Nothing was changed; move the frames back by hand where that is wanted.',
  },
  'archive.open': {
    status: 409,
    message: 'This archive is open already: {address}',
    next: 'Work there, or stop that server before starting another.',
  },
  'archive.other': {
    status: 409,
    message: 'These marks belong to another archive than “{archive}”.',
    next: 'They wait in the browser: open the archive they were made in, at the same address.',
  },
  'upload.short': {
    status: 409,
    message: 'Of “{file}” {come} of {size} bytes have come.',
    next: 'Send it again: it goes on where it ended.',
  },
  'upload.differs': {
    status: 409,
    message: '“{file}” did not come as it was sent: its checksum is another.',
    next: 'Send it again; what had come was let go of. If it happens twice, look at the card or the network.',
  },
  'upload.full': {
    status: 507,
    message: '“{file}” has {needed} bytes, and {free} are free where uploads lie.',
    next: 'Take in what is here and clear it, or free space on the disk of the archive’s index.',
  },
  'upload.holds': {
    status: 409,
    message: 'The upload “{upload}” holds {files} files that are whole.',
    next: 'Take them in, and clear it then; nothing was deleted.',
  },
  'upload.over': {
    status: 409,
    message: 'The upload “{upload}” is ready to be taken in: nothing more comes into it.',
    next: 'Begin another one.',
  },
  'upload.name': {
    status: 422,
    message: '“{file}” cannot be kept under its name: {reason}.',
    next: 'Give it a shorter name of letters, digits and signs, and send it again.',
  },
  'upload.kind': {
    status: 415,
    message: '“{file}” is no picture, clip or sound.',
    next: 'Send pictures, raws, clips, sound notes and sidecars; anything else by another way.',
  },
  'upload.limit': {
    status: 413,
    message: '“{file}” has {size} bytes, and {left} more may come by this link.',
    next: 'Ask whoever sent you the link for another one. What has come is kept.',
  },
  'upload.crowded': {
    status: 507,
    message: 'There is no room for “{file}” at the moment.',
    next: 'Tell whoever sent you the link, and go on later. What has come is kept.',
  },
  'upload.ended': {
    status: 410,
    message: 'The time to send pictures by this link is over.',
    next: 'Ask whoever sent it for a new one. What has come is kept.',
  },
  'upload.enter': {
    status: 401,
    message: 'It is not known any more who sends from this browser.',
    next: 'Load the page again: it asks once more, and goes on where it was.',
  },
  'upload.code': {
    status: 401,
    message: 'This code does not open the link.',
    next: 'Look at it once more, letter by letter; or ask whoever sent you the link.',
  },
  'archive.unknown': {
    status: 404,
    message: 'No archive in “{folder}” is on the list of this computer.',
    next: 'Add it by its folder.',
  },
  'archive.gone': {
    status: 409,
    message: '“{folder}” holds no archive’s index any more: “{archive}” was there.',
    next: 'Plug in the disk that the folder lies on, or add the folder that it was moved to.',
  },
  'archive.folder': {
    status: 400,
    message: '“{folder}” cannot be an archive’s folder: {reason}.',
    next: 'Name an empty folder, one that is to be made, or one that holds an archive.',
  },
  'archive.start': {
    status: 409,
    message: '“{archive}” could not be opened: {reason}',
    next: 'Put that right and open it again; nothing of it was changed.',
  },
  'archive.newer': {
    status: 500,
    message: 'The archive was written by a newer Arkiv (schema {found}, this one knows {known}).',
    next: 'Start the newer Arkiv.',
  },
  'watch.folder': {
    status: 409,
    message: '“{path}” cannot be watched: {reason}.',
    next: 'Choose a folder of its own, into which other programs or people put pictures.',
  },
  'adopt.folder': {
    status: 409,
    message: '“{path}” cannot be adopted: {reason}.',
    next: 'Choose a folder with pictures that no shoot of the archive lies in or above.',
  },
  'record.malformed': {
    status: 422,
    message: 'The record {file} cannot be read: {reason}.',
    next: 'Another drive may hold a good one. The pictures beside it are not touched.',
  },
  'rebuild.busy': {
    status: 409,
    message:
      'This archive has {shoots} shoots already: one is made anew from its drives only where there is none.',
    next: 'Begin with an empty data folder, or put the old database aside first (npm run arkiv -- rebuild --aside).',
  },
  'rebuild.nothing': {
    status: 409,
    message: 'No drive that is here holds a record of the archive “{archive}”.',
    next: 'Connect a drive that holds its originals or copies, and add it.',
  },
  'archive.read-only': {
    status: 507,
    message: 'The archive’s database cannot be written to: {reason}.',
    next: 'Free space on the data drive; marks wait in the browser meanwhile.',
  },
  internal: {
    status: 500,
    message: 'Something went wrong inside Arkiv ({reason}).',
    next: 'Try again; the server’s log says more.',
  },
} as const satisfies Record<string, ErrorEntry>;

export type ErrorCode = keyof typeof ERRORS;
export type ErrorDetails = Readonly<Record<string, string | number>>;

export interface ErrorBody {
  code: ErrorCode;
  message: string;
  details: ErrorDetails;
  next: string;
}

export function errorBody(code: ErrorCode, details: ErrorDetails = {}): ErrorBody {
  const entry: ErrorEntry = ERRORS[code];
  const fill = (text: string) =>
    text.replace(/\{(\w+)\}/g, (_, key: string) => String(details[key] ?? '')).trim();
  return { code, message: fill(entry.message), details, next: fill(entry.next) };
}

/** An expected failure, to be shown as it is. Everything else that is thrown is a defect. */
export class ArkivError extends Error {
  constructor(
    readonly code: ErrorCode,
    readonly details: ErrorDetails = {},
  ) {
    super(errorBody(code, details).message);
    this.name = 'ArkivError';
  }

  get status(): number {
    return ERRORS[this.code].status;
  }

  body(): ErrorBody {
    return errorBody(this.code, this.details);
  }
}
