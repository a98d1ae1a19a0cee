// Cover: painting layers over the ground, layers themselves, and the rules that lay them.
#pragma once

#include "house/station.h"
#include "stations/cover/layer_pictures.h"

class QMenu;

namespace jam {

class CoverStation : public Station {
    Q_OBJECT
public:
    explicit CoverStation(House& house);
    State state() const override;
    QWidget* benchPage(QWidget* parent) override;
    QWidget* sheetPage(QWidget* parent) override;
    std::unique_ptr<Hand> takeHand(const HandEvent& press) override;
    bool takeFiles(const QStringList& paths, bool present) override;

    QList<ActionRow> commands() override;

    // --- commands on layers (layer_commands.cpp) ---
    // Makes a layer of picture files, after asking how.
    void addLayerFrom(const QStringList& files);

private:
    void addLayerMenu();
    void layerMenu(const QPoint& globalPlace);
    void addPlacing(QMenu& menu, const Level& level, int at);
    void addCovering(QMenu& menu, const Level& level, int at);
    void addDeleting(QMenu& menu, const Level& level, int at);
    void addOthers(QMenu& menu, const Level& level, int at, const QString& title, const char* iconName,
                   const std::function<void(uint32_t)>& act);
    void swapPictures();
    void importWeights();
    void askWeights(const std::vector<std::pair<std::filesystem::path, int>>& rows);
    // Asks about the pictures and works them into a layer; `swapped` is the layer that gets them, or none for a new
    // one.
    void askLayer(std::vector<LayerWish> wishes, uint32_t swapped);
    void takeInLayer(Layer layer, uint32_t swapped);
    bool roomForLayer();

    House& house_;
};

}  // namespace jam
