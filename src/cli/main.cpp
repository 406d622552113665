// mavlo-cli: the same core without a window, for scripts and compute nodes.

#include "commands.h"
#include "quantity/failure.h"

#include <CLI/CLI.hpp>

int main(int argc, char** argv) {
    CLI::App app{"Design of electric motors by fields, without a window."};
    app.set_version_flag("--version", MAVLO_VERSION);
    app.require_subcommand(1);
    int exit_code = mavlo::cli::done;
    mavlo::cli::add_new(app, exit_code);
    mavlo::cli::add_check(app, exit_code);
    mavlo::cli::add_ask(app, exit_code);
    mavlo::cli::add_study(app, exit_code);
    mavlo::cli::add_trade_off(app, exit_code);
    mavlo::cli::add_report(app, exit_code);
    mavlo::cli::add_show(app, exit_code);
    mavlo::cli::add_import(app, exit_code);
    mavlo::cli::add_export(app, exit_code);
    mavlo::cli::add_lists(app, exit_code);
    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& error) {
        return app.exit(error) == 0 ? mavlo::cli::done : mavlo::cli::wrong_usage;
    } catch (...) {
        mavlo::cli::complain({mavlo::failure_in_words()});
        return mavlo::cli::solver_failed;
    }
    return exit_code;
}
