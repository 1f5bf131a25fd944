package fabbrica.web.machine;

import fabbrica.core.run.Command;

/** What people may tell a machine. The names go over the web. */
enum MachineOrder {
    STOP(new Command.EmergencyStop(), "%s was told to switch its heaters and motors off at once. Its own switch comes first: use it if anything moves, smells or smokes."),
    PAUSE(new Command.Pause(), "%s was told to pause. It stays hot."),
    RESUME(new Command.Resume(), "%s was told to go on."),
    END(new Command.Cancel(), "%s was told to end it there. Let it cool before you reach in, then say how it ended."),
    RESTART(new Command.Restart(), "%s was told to be ready again. If it does not answer, switch it off and on.");

    private final Command command;
    private final String told;

    MachineOrder(Command command, String told) {
        this.command = command;
        this.told = told;
    }

    Command command() {
        return command;
    }

    /** What somebody reads who has given it. */
    String told(String machine) {
        return told.formatted(machine);
    }
}
