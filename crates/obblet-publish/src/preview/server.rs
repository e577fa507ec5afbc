//! The server of the preview: HTTP/1.1 on the loopback address (RFC 9112), with a bound on everything that
//! a client could hold or stretch.

use super::answer::{Answer, Question, answer};
use super::desk::Desk;
use hyper::body::Incoming;
use hyper::header::HOST;
use hyper::server::conn::http1;
use hyper::service::service_fn;
use hyper::{Request, Response};
use hyper_util::rt::{TokioIo, TokioTimer};
use std::convert::Infallible;
use std::io;
use std::net::{SocketAddr, TcpListener};
use std::pin::pin;
use std::sync::Arc;
use std::time::Duration;
use tokio::runtime::{Builder, Runtime};
use tokio::sync::{Notify, Semaphore};
use tokio::time::{sleep, timeout};

/// Connections that are open at once; those that come on top are closed. Browsers keep six.
const CONNECTIONS: usize = 200;

/// How long a client may take to send the head of a request, and to send another one.
const HEAD_TIME: Duration = Duration::from_secs(10);

/// Bytes of the head of a request.
const LONGEST_HEAD: usize = 16 << 10;

/// How long a connection may last, and how long it then has for what it is at.
const CONNECTION_TIME: Duration = Duration::from_secs(300);
const LAST_TIME: Duration = Duration::from_secs(30);

/// The stack of a thread that converts: as large as that of a main thread.
const STACK: usize = 8 << 20;

/// A server that listens.
pub(super) struct Server {
    listener: TcpListener,
    /// There until the server is dropped.
    runtime: Option<Runtime>,
    stop: Arc<Notify>,
}

impl Server {
    pub(super) fn listen(address: SocketAddr) -> io::Result<Self> {
        let listener = TcpListener::bind(address)?;
        listener.set_nonblocking(true)?;
        // Answers are made on threads of their own: some convert, some wait for a change.
        let runtime = Builder::new_multi_thread()
            .worker_threads(1)
            .max_blocking_threads(CONNECTIONS)
            .thread_stack_size(STACK)
            .enable_io()
            .enable_time()
            .build()?;
        Ok(Self { listener, runtime: Some(runtime), stop: Arc::new(Notify::new()) })
    }

    pub(super) fn address(&self) -> io::Result<SocketAddr> {
        self.listener.local_addr()
    }

    /// What ends [`serve`](Self::serve), also when it has not begun yet.
    pub(super) fn stopper(&self) -> impl Fn() + Send + Sync + 'static + use<> {
        let stop = self.stop.clone();
        move || stop.notify_one()
    }

    /// Answers until it is stopped.
    pub(super) fn serve(&self, desk: &Arc<Desk>, port: u16) -> io::Result<()> {
        let Some(runtime) = &self.runtime else { return Ok(()) };
        runtime.block_on(async {
            let listener = tokio::net::TcpListener::from_std(self.listener.try_clone()?)?;
            let places = Arc::new(Semaphore::new(CONNECTIONS));
            loop {
                let stream = tokio::select! {
                    () = self.stop.notified() => return Ok(()),
                    accepted = listener.accept() => match accepted {
                        Ok((stream, _)) => stream,
                        // Too many open files, or a client that is gone: neither lasts.
                        Err(_) => {
                            sleep(Duration::from_millis(50)).await;
                            continue;
                        }
                    },
                };
                let Ok(place) = places.clone().try_acquire_owned() else { continue };
                let desk = desk.clone();
                tokio::spawn(async move {
                    serve_connection(TokioIo::new(stream), desk, port).await;
                    drop(place);
                });
            }
        })
    }
}

impl Drop for Server {
    fn drop(&mut self) {
        // Nobody waits for those who wait for a change.
        if let Some(runtime) = self.runtime.take() {
            runtime.shutdown_background();
        }
    }
}

/// Answers what comes through one connection.
async fn serve_connection(stream: TokioIo<tokio::net::TcpStream>, desk: Arc<Desk>, port: u16) {
    let service = service_fn(move |request| answered(request, desk.clone(), port));
    let connection = http1::Builder::new()
        .timer(TokioTimer::new())
        .header_read_timeout(HEAD_TIME)
        .max_buf_size(LONGEST_HEAD)
        .serve_connection(stream, service);
    let mut connection = pin!(connection);
    // What a client does wrong concerns nobody else.
    if timeout(CONNECTION_TIME, connection.as_mut()).await.is_err() {
        connection.as_mut().graceful_shutdown();
        let _ = timeout(LAST_TIME, connection).await;
    }
}

/// Bodies of requests are never read.
async fn answered(
    request: Request<Incoming>,
    desk: Arc<Desk>,
    port: u16,
) -> Result<Response<Answer>, Infallible> {
    let host = request.headers().get(HOST).and_then(|host| host.to_str().ok());
    let question = Question {
        is_to_read: matches!(*request.method(), hyper::Method::GET | hyper::Method::HEAD),
        host: host.unwrap_or_default().to_string(),
        path: request.uri().path().to_string(),
        query: request.uri().query().unwrap_or_default().to_string(),
    };
    let made = tokio::task::spawn_blocking(move || answer(&question, &desk, port)).await;
    Ok(made.unwrap_or_else(|_| super::answer::broke_off()))
}
