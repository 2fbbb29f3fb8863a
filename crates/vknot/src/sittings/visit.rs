//! Visits to sittings: starting one, having code run, ending it.

use std::fs::{File, OpenOptions};
use std::io::{BufRead, BufReader, ErrorKind, Write};
use std::os::unix::fs::OpenOptionsExt;
use std::os::unix::net::UnixStream;
use std::os::unix::process::CommandExt;
use std::process::{Command, Stdio};

use anyhow::{Context, bail};
use rustix::fs::{FlockOperation, flock};
use signal_hook::consts::SIGINT;
use signal_hook::iterator::Signals;

use super::records::{Record, folder, named};
use super::wire::{Message, Piece, State, receive, send};

/// What came of code.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Ended {
    /// It has run, with this status.
    Code(u8),
    /// Its interpreter has ended, and the sitting with it.
    Sitting(u8),
}

/// What a visitor wants of a sitting that may be there already.
pub struct Asked<'a> {
    /// The sitting to begin if there is none.
    pub record: &'a Record,
    /// Whether its interpreter was named for this very run.
    pub insists: bool,
}

/// The sitting's way in, if someone is there.
fn connect(record: &Record) -> anyhow::Result<Option<UnixStream>> {
    match UnixStream::connect(record.file("sock")?) {
        Ok(stream) => Ok(Some(stream)),
        Err(error) if matches!(error.kind(), ErrorKind::NotFound | ErrorKind::ConnectionRefused) => Ok(None),
        Err(error) => Err(error).context("cannot reach the sitting"),
    }
}

/// Enters a sitting; begins it if there is none. Whoever does so at the same time waits.
fn enter(asked: &Asked<'_>) -> anyhow::Result<UnixStream> {
    let lock = OpenOptions::new().create(true).append(true).mode(0o600).open(folder()?.join("lock"))?;
    flock(&lock, FlockOperation::LockExclusive).context("cannot lock the folder of sittings")?;
    let wanted = asked.record;
    if let Some(stream) = connect(wanted)? {
        let there = named(&wanted.root, &wanted.name)?.unwrap_or_else(|| wanted.clone());
        if there.language != wanted.language {
            bail!("the sitting `{}` is one of {}; name another one for {}", wanted.name, there.language, wanted.language);
        }
        if asked.insists && there.interpreter != wanted.interpreter {
            bail!("the sitting `{}` runs `{}`; end it first, or name another one", wanted.name, there.interpreter);
        }
        return Ok(stream);
    }
    begin(wanted)?;
    drop(lock);
    connect(wanted)?.context("the sitting ended as soon as it began")
}

/// Starts a keeper, which lives on.
fn begin(record: &Record) -> anyhow::Result<()> {
    record.remove();
    let program = std::env::current_exe().context("cannot find this program to start it again")?;
    let mut keeper = Command::new(program)
        .args(["sections", "keep"])
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .stderr(Stdio::null())
        .process_group(0)
        .spawn()
        .context("cannot start the sitting")?;
    if let Some(mut input) = keeper.stdin.take() {
        input.write_all(&serde_json::to_vec(record)?)?;
    }
    let mut said = String::new();
    if let Some(output) = keeper.stdout.take() {
        BufReader::new(output).read_line(&mut said)?;
    }
    match said.trim() {
        "ready" => Ok(()),
        "" => bail!("the sitting did not begin"),
        problem => bail!("{problem}"),
    }
}

/// Has code run in a sitting, and passes on what it writes. Ctrl-C interrupts the code; a second one leaves it alone.
///
/// # Errors
/// When the sitting cannot be begun or reached, is one of another language, or our own output cannot be written.
pub fn run(asked: &Asked<'_>, piece: Piece) -> anyhow::Result<Ended> {
    let mut stream = enter(asked)?;
    send(&mut stream, &Message::Run(piece)).context("the sitting does not take the code")?;
    let mut also = stream.try_clone()?;
    let mut signals = Signals::new([SIGINT])?;
    let handle = signals.handle();
    std::thread::spawn(move || {
        for (count, signal) in signals.forever().enumerate() {
            if count > 0 || send(&mut also, &Message::Interrupt).is_err() {
                let _ = signal_hook::low_level::emulate_default_handler(signal);
            }
        }
    });
    let ended = relay(&mut stream);
    handle.close();
    ended
}

fn relay(stream: &mut UnixStream) -> anyhow::Result<Ended> {
    loop {
        let message = match receive(stream) {
            Err(error) if error.kind() == ErrorKind::UnexpectedEof => bail!("the sitting has ended meanwhile"),
            received => received.context("the sitting cannot be heard")?,
        };
        match message {
            Message::Output(bytes) => pass(&mut std::io::stdout(), &bytes)?,
            Message::Errors(bytes) => pass(&mut std::io::stderr(), &bytes)?,
            Message::Done(status) => return Ok(Ended::Code(status)),
            Message::Ended(status) => return Ok(Ended::Sitting(status)),
            _ => {}
        }
    }
}

/// What nobody reads any more is dropped: the code runs on.
fn pass(to: &mut impl Write, bytes: &[u8]) -> std::io::Result<()> {
    match to.write_all(bytes).and_then(|()| to.flush()) {
        Err(error) if error.kind() == ErrorKind::BrokenPipe => Ok(()),
        passed => passed,
    }
}

/// How a sitting is; `None` where nobody is there any more, and its record is taken away.
///
/// # Errors
/// When it cannot be reached.
pub fn state(record: &Record) -> anyhow::Result<Option<State>> {
    let lock = File::open(folder()?.join("lock"));
    if let Ok(lock) = &lock {
        flock(lock, FlockOperation::LockShared).context("cannot lock the folder of sittings")?;
    }
    let Some(mut stream) = connect(record)? else {
        record.remove();
        return Ok(None);
    };
    send(&mut stream, &Message::Ask)?;
    match receive(&mut stream) {
        Ok(Message::State(state)) => Ok(Some(state)),
        _ => Ok(None),
    }
}

/// Ends a sitting, whatever runs in it; whether there was one.
///
/// # Errors
/// When it cannot be reached.
pub fn end(record: &Record) -> anyhow::Result<bool> {
    let Some(mut stream) = connect(record)? else {
        record.remove();
        return Ok(false);
    };
    send(&mut stream, &Message::End)?;
    let ended = matches!(receive(&mut stream), Ok(Message::Ended(_)));
    if ended {
        // It may not have come to that yet, and is not to be seen any more.
        record.remove();
    }
    Ok(ended)
}
