//! The process that keeps an interpreter: it hands it what visitors want run, and what comes of it back to them.

use std::io::{Read, Write};
use std::net::Shutdown;
use std::os::unix::net::{UnixListener, UnixStream};
use std::os::unix::process::{CommandExt, ExitStatusExt};
use std::path::PathBuf;
use std::process::{Child, ChildStdin, Command, ExitStatus, Stdio};
use std::sync::mpsc::{Receiver, RecvTimeoutError, SyncSender, sync_channel};
use std::sync::{Arc, Mutex, PoisonError};
use std::time::{Duration, Instant};

use anyhow::Context;
use rustix::process::{Pid, Signal, kill_process_group};

use super::records::Record;
use super::wire::{Message, Piece, State, receive, send};

/// How long a visitor may take to say what it wants.
const PATIENCE: Duration = Duration::from_secs(5);
/// How long an interpreter may take to end when it is asked to.
const FAREWELL: Duration = Duration::from_secs(2);
/// The most bytes that are kept of what comes while nobody is there to get it.
const KEPT_AT_MOST: usize = 1024 * 1024;

/// How many events may wait: an interpreter that says more than its visitor takes waits, too.
const EVENTS_AT_MOST: usize = 64;

/// What happens to a sitting.
enum Event {
    /// A visitor wants something run.
    Visit(UnixStream, Piece),
    /// The visitor whose code runs wants that interrupted.
    Interrupt,
    /// Someone wants it to end.
    End(UnixStream),
    /// The interpreter said something.
    Said(Message),
    /// A stream of the interpreter is at the end of a piece, with the status of it.
    Reached(u8),
    /// A stream of the interpreter has ended.
    Closed,
}

/// How the sitting is, as visitors may ask.
struct Facts {
    busy: bool,
    runs: u32,
    since: Instant,
    /// Who waits for what runs.
    visitor: Option<UnixStream>,
}

type Shared = Arc<Mutex<Facts>>;

/// Keeps an interpreter until it ends, is ended, or has had nothing to do for long.
///
/// `ready` is called when visitors can come.
///
/// # Errors
/// When the interpreter does not start, or the socket cannot be made.
pub fn keep(record: &Record, ready: impl FnOnce()) -> anyhow::Result<()> {
    // Away from the terminal it was started from, whose signals are for others.
    let _ = rustix::process::setsid();
    let mark = mark();
    let mut child = start(record, &mark)?;
    let requests = child.stdin.take().context("the interpreter has no input")?;
    let (events, happens) = sync_channel(EVENTS_AT_MOST);
    let output = child.stdout.take().context("the interpreter has no output")?;
    let errors = child.stderr.take().context("the interpreter has no errors")?;
    listen(output, Message::Output, &mark, &events);
    listen(errors, Message::Errors, &mark, &events);
    let socket = record.file("sock")?;
    let _ = std::fs::remove_file(&socket);
    let listener = UnixListener::bind(&socket).with_context(|| format!("cannot listen at {}", socket.display()))?;
    let facts = Arc::new(Mutex::new(Facts { busy: false, runs: 0, since: Instant::now(), visitor: None }));
    let shared = Arc::clone(&facts);
    std::thread::spawn(move || receive_visitors(&listener, &shared, &events));
    record.write()?;
    ready();
    let code = record.file("code")?;
    Keeper { child, requests, happens, facts, code, waiting: Vec::new(), kept: Vec::new() }.serve(record);
    record.remove();
    Ok(())
}

fn start(record: &Record, mark: &str) -> anyhow::Result<Child> {
    let (program, rest) = record.command.split_first().context("no command")?;
    let child = Command::new(program)
        .args(rest)
        .current_dir(&record.folder)
        .env("VKNOT_MARK", mark)
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .process_group(0)
        .spawn();
    child.with_context(|| format!("cannot run `{program}`; is it installed?"))
}

/// What no code writes by chance.
fn mark() -> String {
    use std::hash::{BuildHasher, Hasher, RandomState};
    let number = || RandomState::new().build_hasher().finish();
    format!("{:016x}{:016x}", number(), number())
}

/// Passes on what a stream of the interpreter says, beside everything else.
fn listen(stream: impl Read + Send + 'static, message: fn(Vec<u8>) -> Message, mark: &str, events: &SyncSender<Event>) {
    let (events, mark) = (events.clone(), mark.to_owned());
    std::thread::spawn(move || listen_to(stream, message, &mark, &events));
}

/// Passes on what a stream of the interpreter says, and takes the marks out that end pieces.
fn listen_to(mut stream: impl Read, message: fn(Vec<u8>) -> Message, mark: &str, events: &SyncSender<Event>) {
    let mark = format!("\u{1e}{mark} ").into_bytes();
    let mut held: Vec<u8> = Vec::new();
    let mut chunk = vec![0; 64 * 1024];
    while let Ok(length @ 1..) = stream.read(&mut chunk) {
        held.extend(chunk.iter().take(length));
        while let Some(at) = held.windows(mark.len()).position(|window| window == mark.as_slice()) {
            let behind = held.get(at + mark.len()..).unwrap_or(&[]);
            let Some(end) = behind.iter().position(|byte| *byte == b'\n') else { break };
            let status = String::from_utf8_lossy(behind.get(..end).unwrap_or(&[])).trim().parse().unwrap_or(1);
            let rest = behind.get(end + 1..).unwrap_or(&[]).to_vec();
            held.truncate(at);
            let said = std::mem::replace(&mut held, rest);
            if !said.is_empty() {
                let _ = events.send(Event::Said(message(said)));
            }
            let _ = events.send(Event::Reached(status));
        }
        // What could be the beginning of a mark waits for the rest.
        let until = held.iter().rposition(|byte| *byte == 0x1e).filter(|at| {
            let rest = held.get(*at..).unwrap_or(&[]);
            rest.len() < mark.len() + 8 && (mark.starts_with(rest) || rest.starts_with(&mark))
        });
        let rest = held.split_off(until.unwrap_or(held.len()));
        let said = std::mem::replace(&mut held, rest);
        if !said.is_empty() && events.send(Event::Said(message(said))).is_err() {
            return;
        }
    }
    if !held.is_empty() {
        let _ = events.send(Event::Said(message(held)));
    }
    let _ = events.send(Event::Closed);
}

/// Hears what each visitor wants; how the sitting is, it says at once.
fn receive_visitors(listener: &UnixListener, facts: &Shared, events: &SyncSender<Event>) {
    for visitor in listener.incoming() {
        let Ok(mut visitor) = visitor else { return };
        let (facts, events) = (Arc::clone(facts), events.clone());
        std::thread::spawn(move || {
            let _ = visitor.set_read_timeout(Some(PATIENCE));
            match receive(&mut visitor) {
                Ok(Message::Run(piece)) => {
                    let _ = visitor.set_read_timeout(None);
                    let Ok(mut also) = visitor.try_clone() else { return };
                    let _ = events.send(Event::Visit(visitor, piece));
                    while let Ok(Message::Interrupt) = receive(&mut also) {
                        let _ = events.send(Event::Interrupt);
                    }
                }
                Ok(Message::End) => {
                    leave(&facts);
                    let _ = events.send(Event::End(visitor));
                }
                Ok(Message::Ask) => drop(send(&mut visitor, &Message::State(state_of(&facts)))),
                _ => {}
            }
        });
    }
}

/// Takes leave of who waits for what runs: one that does not listen keeps no sitting from ending.
fn leave(facts: &Shared) {
    let facts = facts.lock().unwrap_or_else(PoisonError::into_inner);
    if let Some(visitor) = &facts.visitor {
        let _ = visitor.shutdown(Shutdown::Both);
    }
}

fn state_of(facts: &Shared) -> State {
    let facts = facts.lock().unwrap_or_else(PoisonError::into_inner);
    let idle = if facts.busy { 0 } else { facts.since.elapsed().as_secs() };
    State { busy: facts.busy, runs: facts.runs, idle }
}

/// An interpreter and those who wait for it.
struct Keeper {
    child: Child,
    requests: ChildStdin,
    happens: Receiver<Event>,
    facts: Shared,
    /// The folder for code that is to run.
    code: PathBuf,
    /// Visitors whose turn comes when what runs has ended.
    waiting: Vec<(UnixStream, Piece)>,
    /// What was said while nobody was there.
    kept: Vec<Message>,
}

impl Keeper {
    fn serve(mut self, record: &Record) {
        let idle = Duration::from_secs(record.idle);
        loop {
            let next = if self.waiting.is_empty() { None } else { Some(self.waiting.remove(0)) };
            let event = match next {
                Some((visitor, piece)) => Ok(Event::Visit(visitor, piece)),
                None => self.happens.recv_timeout(idle),
            };
            match event {
                Ok(Event::Visit(visitor, piece)) => {
                    if !self.run(visitor, &piece) {
                        return;
                    }
                }
                Ok(Event::End(mut visitor)) => {
                    let status = self.end();
                    let _ = send(&mut visitor, &Message::Ended(status));
                    return;
                }
                Ok(Event::Said(message)) => self.keep(message),
                Ok(Event::Closed) | Err(RecvTimeoutError::Timeout | RecvTimeoutError::Disconnected) => {
                    self.end();
                    return;
                }
                Ok(Event::Interrupt | Event::Reached(_)) => {}
            }
        }
    }

    fn keep(&mut self, message: Message) {
        let length = |message: &Message| match message {
            Message::Output(bytes) | Message::Errors(bytes) => bytes.len(),
            _ => 0,
        };
        if self.kept.iter().map(length).sum::<usize>() + length(&message) <= KEPT_AT_MOST {
            self.kept.push(message);
        }
    }

    fn set_busy(&self, visitor: Option<UnixStream>) {
        let mut facts = self.facts.lock().unwrap_or_else(PoisonError::into_inner);
        facts.busy = visitor.is_some();
        facts.runs += u32::from(facts.busy);
        facts.since = Instant::now();
        facts.visitor = visitor;
    }

    /// Runs a piece for a visitor, who may leave meanwhile; whether the interpreter is still there afterwards.
    fn run(&mut self, mut visitor: UnixStream, piece: &Piece) -> bool {
        let Ok(also) = visitor.try_clone() else { return true };
        self.set_busy(Some(also));
        for message in std::mem::take(&mut self.kept) {
            let _ = send(&mut visitor, &message);
        }
        if self.request(piece).is_err() {
            let status = self.end();
            let _ = send(&mut visitor, &Message::Ended(status));
            return false;
        }
        // Both streams come to the end of the piece.
        let mut reached = 0;
        let mut status = 0;
        while reached < 2 {
            match self.happens.recv() {
                Ok(Event::Said(message)) => drop(send(&mut visitor, &self.named(message, piece))),
                Ok(Event::Reached(said)) => {
                    reached += 1;
                    status = said.max(status);
                }
                Ok(Event::Interrupt) => self.signal(Signal::INT),
                Ok(Event::Visit(other, piece)) => self.waiting.push((other, piece)),
                Ok(Event::End(mut other)) => {
                    let status = self.end();
                    for leaver in [&mut visitor, &mut other] {
                        let _ = send(leaver, &Message::Ended(status));
                    }
                    return false;
                }
                Ok(Event::Closed) | Err(_) => {
                    self.rest(&mut visitor, piece);
                    let status = self.end();
                    let _ = send(&mut visitor, &Message::Ended(status));
                    return false;
                }
            }
        }
        self.set_busy(None);
        let _ = send(&mut visitor, &Message::Done(status));
        true
    }

    /// What the other stream still says when one has ended.
    fn rest(&self, visitor: &mut UnixStream, piece: &Piece) {
        while let Ok(event) = self.happens.recv_timeout(FAREWELL) {
            match event {
                Event::Said(message) => drop(send(visitor, &self.named(message, piece))),
                Event::Closed => return,
                _ => {}
            }
        }
    }

    /// Where the interpreter finds a piece.
    fn path_of(&self, piece: &Piece) -> PathBuf {
        let own = piece.name.rsplit('/').next().unwrap_or("code");
        self.code.join(own.replace(|c: char| c.is_control(), "?"))
    }

    /// Errors with the name of the file in place of where its code was put.
    fn named(&self, message: Message, piece: &Piece) -> Message {
        let Message::Errors(said) = message else { return message };
        let path = self.path_of(piece).into_os_string().into_encoded_bytes();
        let mut named = Vec::with_capacity(said.len());
        let mut rest = said.as_slice();
        while let Some(at) = rest.windows(path.len()).position(|window| window == path.as_slice()) {
            named.extend_from_slice(rest.get(..at).unwrap_or(&[]));
            named.extend_from_slice(piece.name.as_bytes());
            rest = rest.get(at + path.len()..).unwrap_or(&[]);
        }
        named.extend_from_slice(rest);
        Message::Errors(named)
    }

    /// Writes a piece where the interpreter finds it, and tells it.
    fn request(&mut self, piece: &Piece) -> std::io::Result<()> {
        std::fs::create_dir_all(&self.code)?;
        let path = self.path_of(piece);
        std::fs::write(&path, &piece.code)?;
        let name = piece.name.replace(|c: char| c.is_control(), "?");
        writeln!(self.requests, "{}\t{name}", path.display())?;
        self.requests.flush()
    }

    fn signal(&self, signal: Signal) {
        if let Some(child) = i32::try_from(self.child.id()).ok().and_then(Pid::from_raw) {
            let _ = kill_process_group(child, signal);
        }
    }

    /// Ends the interpreter, with what it started, and gives its status.
    fn end(&mut self) -> u8 {
        let begun = Instant::now();
        let mut asked = false;
        loop {
            match self.child.try_wait() {
                Ok(Some(status)) => return code_of(status),
                Err(_) => return u8::MAX,
                Ok(None) if begun.elapsed() > FAREWELL => self.signal(Signal::KILL),
                // It may be about to end by itself.
                Ok(None) if !asked && begun.elapsed() > Duration::from_millis(100) => {
                    asked = true;
                    self.signal(Signal::TERM);
                }
                Ok(None) => {}
            }
            std::thread::sleep(Duration::from_millis(10));
        }
    }
}

fn code_of(status: ExitStatus) -> u8 {
    let code = status.code().or(status.signal().map(|signal| 128 + signal));
    code.and_then(|code| u8::try_from(code).ok()).unwrap_or(u8::MAX)
}
