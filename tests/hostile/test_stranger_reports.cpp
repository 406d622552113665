// A logo that wants to fetch something: the printer of PDFs gets nothing but the page.

#include "hostile/hostile.h"
#include "study/process.h"
#include "test_program.h"

#include <QElapsedTimer>
#include <netinet/in.h>
#include <poll.h>
#include <sys/socket.h>
#include <unistd.h>

using namespace mavlo;

namespace {

/// A port on this machine that tells whether anybody came.
class Ear {
  public:
    Ear() {
        ::sockaddr_in here{};
        here.sin_family = AF_INET;
        here.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
        ::socklen_t size = sizeof here;
        auto* address = reinterpret_cast<::sockaddr*>(&here);
        if (::bind(m_socket, address, size) || ::listen(m_socket, 4) || ::getsockname(m_socket, address, &size))
            qFatal("no port");
        port = ntohs(here.sin_port);
    }
    ~Ear() { ::close(m_socket); }
    bool heard() const {
        ::pollfd ready{m_socket, POLLIN, 0};
        return ::poll(&ready, 1, 200) > 0;
    }
    int port = 0;

  private:
    int m_socket = ::socket(AF_INET, SOCK_STREAM, 0);
};

} // namespace

class TestStrangerReports : public QObject {
    Q_OBJECT
    Leash m_leash;

  private Q_SLOTS:
    void nothing_is_fetched_for_a_logo() {
        const Ear server;
        const QByteArray address = "http://127.0.0.1:" + QByteArray::number(server.port) + "/x.png";
        const QByteArray logo = "<svg xmlns='http://www.w3.org/2000/svg' "
                                "xmlns:xlink='http://www.w3.org/1999/xlink' width='90' height='30'>"
                                "<image width='30' height='30' xlink:href='" +
                                address + "'/><image width='30' height='30' href='" + address +
                                "'/><image x='30' width='30' height='30' xlink:href='file:///etc/hostname'/>"
                                "<rect x='60' width='30' height='30' fill='#a8501f'/></svg>";
        const QString project = m_leash.project(), pdf = m_leash.path("r.pdf");
        // The printer is a program of its own with a memory of its own.
        const CliRun run = run_cli({"report", project, "--logo", m_leash.put("logo.svg", logo), "-o", pdf},
                                   QStringLiteral(MAVLO_CLI), {240, 0, m_leash.folder()});
        if (run.err.contains("not installed") && !qEnvironmentVariableIsSet("CI")) QSKIP("no WeasyPrint here");
        QVERIFY2(run.code == 0, qPrintable(run.err));
        QVERIFY(m_leash.content("r.pdf").startsWith("%PDF"));
        QVERIFY(!server.heard());
        QVERIFY(QDir(m_leash.folder()).entryList({"*.part"}).isEmpty());
    }
    void a_pdf_that_fails_leaves_what_was_there() {
        const QString project = m_leash.project("q.mavlo");
        m_leash.put("old.pdf", "old");
        const CliRun run =
            run_cli({"report", project, "--logo", m_leash.path("missing.svg"), "-o", m_leash.path("old.pdf")},
                    QStringLiteral(MAVLO_CLI), {60, 0, m_leash.folder()});
        QVERIFY(refused(run));
        QCOMPARE(m_leash.content("old.pdf"), QByteArray("old"));
    }
    void another_program_is_stopped_in_time() {
        QElapsedTimer since;
        since.start();
        const auto late = run_program({"sh", "-c", "sleep 60 & sleep 60"}, {}, {0.5, {}});
        QVERIFY(!late && late.problems().front().sentence.find("did not end") != std::string::npos);
        std::stop_source stop;
        std::jthread later([&] {
            std::this_thread::sleep_for(std::chrono::milliseconds(300));
            stop.request_stop();
        });
        QVERIFY(!run_program({"sleep", "60"}, {}, {60, stop.get_token()}));
        QVERIFY(since.elapsed() < 8000);
    }
};
MAVLO_TEST(stranger_reports, TestStrangerReports, EventLoop)
#include "test_stranger_reports.moc"
